import type { BrowserPool } from '@pragmatica/visitor';
import type { Logger } from 'pino';
import type { SiteClient } from '../outgoing/site-client.js';
import type { Readers } from '../reading/readers.js';
import type { Host } from '../storage/rows.js';

/** What it takes to visit pages with a browser, and to judge what it saw. */
export interface VisitTools {
  readonly pool: BrowserPool;
  readonly client: SiteClient;
  readonly readers: Readers;
  readonly log: Logger;
}

/** How visitors reach a host. */
export function addressOf({ address, host }: Pick<Host, 'address' | 'host'>): string {
  return new URL(address ?? `http://${host}`).origin;
}
