/** A name with a dot, this machine, or an address in numbers. */
const HOSTNAME = /^(?:localhost|(?:[a-z0-9](?:[a-z0-9-]*[a-z0-9])?\.)+[a-z0-9][a-z0-9-]*|\[[0-9a-f:.]+\])$/;
const MAX_LENGTH = 2_000;

/**
 * What somebody may mean by a site's address: origins to try, the likeliest first. Paths are left out, as are names and
 * passwords.
 *
 * @returns undefined for what is no address of a site
 */
export function siteAddresses(typed: string): readonly string[] | undefined {
  const text = typed.trim();
  if (text === '' || text.length > MAX_LENGTH || /\s/.test(text)) return undefined;
  const hasScheme = /^[a-z][a-z0-9+.-]*:\/\//i.test(text);
  const whole = hasScheme ? text : `https://${text.replace(/^\/\//, '')}`;
  if (!URL.canParse(whole)) return undefined;
  const url = new URL(whole);
  if (!/^https?:$/.test(url.protocol) || !HOSTNAME.test(url.hostname)) return undefined;
  if (hasScheme) return [url.origin];
  const plain = new URL(`http://${url.host}`).origin;
  // Names of this machine have no certificates.
  return isOfThisMachine(url.hostname) ? [plain] : [url.origin, plain];
}

function isOfThisMachine(hostname: string): boolean {
  return hostname === 'localhost' || hostname.endsWith('.localhost') || /^[\d.]+$|^\[/.test(hostname);
}

/** What stands between the name of a site and that of a page. */
const BETWEEN = / [|–—·•:»-] |: /;
const MAX_NAME = 100;

/**
 * The name of a site by the title of its front page: the piece of it that is most like the hostname, or else the longest
 * one. The hostname itself where there is no title.
 */
export function siteNameOf(title: string, hostname: string): string {
  const host = hostname.replace(/^www\./, '');
  const pieces = title
    .replace(/\s+/g, ' ')
    .split(BETWEEN)
    .map((piece) => piece.trim())
    .filter(Boolean);
  const [best] = [...pieces].sort(
    (a, b) =>
      likeness(b, host) - likeness(a, host) || b.length - a.length || pieces.indexOf(a) - pieces.indexOf(b),
  );
  return (best ?? host).slice(0, MAX_NAME).trim();
}

/** How many words of a name are in a hostname, of all its letters. */
function likeness(name: string, host: string): number {
  const letters = host.replace(/[^\p{Letter}\p{Number}]/gu, '');
  const words = name
    .toLowerCase()
    .normalize('NFKD')
    .split(/[^\p{Letter}\p{Number}]+/u)
    .filter((word) => word.length > 2);
  const held = words.filter((word) => letters.includes(word)).join('').length;
  return held / Math.max(letters.length, 1);
}
