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
