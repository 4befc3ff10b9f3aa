import { accessesOf, type AccessKind } from '../storage/host-access.js';
import type { Site } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { SealError, type SecretBox } from './secret-box.js';

/** What opens a host that is not public. */
export interface HostSecret {
  readonly kind: AccessKind;
  /** Of the user, the header or the cookie. */
  readonly name: string;
  readonly value: string;
}

/** What is sealed for a host opens only that host of that site. */
export function purposeOf(site: Pick<Site, 'id'>, host: string): string {
  return `host-access ${site.id} ${host}`;
}

/** The request headers with which a host lets us in; none for one that is public. Never logged, never shown. */
export async function accessHeaders(
  store: Store,
  box: SecretBox,
  site: Pick<Site, 'id'>,
  host: string,
): Promise<Readonly<Record<string, string>>> {
  const row = (await accessesOf(store, site)).find((one) => one.host === host);
  if (!row) return {};
  try {
    return headersOf(JSON.parse(box.open(row.sealed, purposeOf(site, host))) as HostSecret);
  } catch (error) {
    // With another key it is as if nothing had been given: the site will say that it lets nobody in.
    if (error instanceof SealError) return {};
    throw error;
  }
}

function headersOf({ kind, name, value }: HostSecret): Record<string, string> {
  switch (kind) {
    case 'basic':
      // HTTP Authentication, "Basic" (RFC 7617).
      return { authorization: `Basic ${Buffer.from(`${name}:${value}`).toString('base64')}` };
    case 'header':
      return { [name.toLowerCase()]: value };
    case 'cookie':
      return { cookie: `${name}=${value}` };
  }
}
