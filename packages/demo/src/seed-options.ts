import type { ApiClient, WatchInput } from '@pragmatica/contract';

import type { HoursResource } from '@pragmatica/contract';

export interface SeedOptions {
  readonly server: string;
  readonly token: string;
  readonly gatewayPort: number;
  readonly sitePort: number;
  readonly providerPort: number;
  /** When the chat is on; tests must not depend on the hour. */
  readonly chatHours?: HoursResource;
  /** Also the recipes, and the small sites around the ferries. */
  readonly isWhole?: boolean;
}

/** Nobody waits for visits after the releases of the demo: they would take its machine for minutes. */
export const UNWATCHED = { afterPublishing: 'nothing' } as const;

/** Says how a site is watched. */
export async function setWatch(client: ApiClient, site: string, body: WatchInput): Promise<void> {
  const { etag } = await client.call('showWatch', { params: { site } });
  await client.call('setWatch', { params: { site }, ifMatch: etag, body });
}
