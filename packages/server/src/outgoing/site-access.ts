import { accessesOf } from '../storage/host-access.js';
import type { Site } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import type { FormSecret } from './form-login.js';
import { SEAL_PURPOSES } from './seal-purposes.js';
import { SealError, type SecretBox } from './secret-box.js';

/** What opens a host that is not public. */
export type HostSecret = HeaderSecret | (FormSecret & { readonly kind: 'form' });

/** What opens one with a request header. */
export interface HeaderSecret {
  readonly kind: 'basic' | 'header' | 'cookie';
  /** Of the user, the header or the cookie. */
  readonly name: string;
  readonly value: string;
}

/** What opens a host; undefined for one that is public. Never logged, never shown. */
export async function hostSecretOf(
  store: Store,
  box: SecretBox,
  site: Pick<Site, 'id'>,
  host: string,
): Promise<HostSecret | undefined> {
  const row = (await accessesOf(store, site)).find((one) => one.host === host);
  if (!row) return undefined;
  try {
    return JSON.parse(box.open(row.sealed, SEAL_PURPOSES.hostAccess(site.id, host))) as HostSecret;
  } catch (error) {
    // With another key it is as if nothing had been given: the site will say that it lets nobody in.
    if (error instanceof SealError) return undefined;
    throw error;
  }
}

/** The request headers with which a host lets us in. */
export function headersOf({ kind, name, value }: HeaderSecret): Record<string, string> {
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
