/** The small sites around the ferries, each a few pages of its own. */
export interface SisterSite {
  readonly key: string;
  readonly name: string;
  readonly host: string;
  /** Its account at Tallymast. */
  readonly account: string;
  readonly pages: Readonly<Record<string, string>>;
}

export const SISTER_SITES: readonly SisterSite[] = [
  {
    key: 'skerrywick-freight',
    name: 'Skerrywick Freight',
    host: 'freight.skerrywick.localhost',
    account: 'TM-1901',
    pages: { '/': 'Freight between the islands', '/rates': 'Rates', '/book': 'Book a load' },
  },
  {
    key: 'port-hallow',
    name: 'Port Hallow Harbour',
    host: 'port-hallow.localhost',
    account: 'TM-1902',
    pages: { '/': 'The harbour', '/berths': 'Berths', '/tides': 'Tides', '/contact': 'Contact' },
  },
  {
    key: 'tern-hostel',
    name: 'Tern Island Hostel',
    host: 'tern-hostel.localhost',
    account: 'TM-1903',
    pages: { '/': 'Forty beds and a stove', '/rooms': 'Rooms', '/book': 'Book a bed' },
  },
  {
    key: 'quay-kitchen',
    name: 'Quay Kitchen',
    host: 'quay-kitchen.localhost',
    account: 'TM-1904',
    pages: { '/': 'Fish, chips, and the last boat', '/menu': 'Menu', '/tables': 'Tables' },
  },
];

/** The page of a sister site; undefined where it has none. */
export function sisterPage(host: string, path: string): string | undefined {
  const site = SISTER_SITES.find((entry) => entry.host === host);
  const heading = site?.pages[path];
  if (!site || heading === undefined) return undefined;
  const links = Object.keys(site.pages).map((href) => `<a href="${href}">${href}</a>`);
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${heading} · ${site.name}</title><link rel="stylesheet" href="/assets/site.css"></head><body><nav class="wrap">${links.join(' ')}</nav><main class="wrap"><h1>${heading}</h1><p>${site.name}.</p></main></body></html>`;
}

export function sisterPaths(host: string): string[] | undefined {
  const site = SISTER_SITES.find((entry) => entry.host === host);
  return site && Object.keys(site.pages);
}
