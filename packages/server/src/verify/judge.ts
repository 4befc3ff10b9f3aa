import type { PagePlan, PartDelivery } from '@pragmatica/core';
import type { Readers } from '../reading/readers.js';
import type { SiteClient } from '../outgoing/site-client.js';

/** A page as a visitor received it, beside what it should hold. */
export interface ReceivedPage {
  readonly plan: PagePlan;
  readonly path: string;
  /** Whole address. */
  readonly url: string;
  /** Decoded from their content encoding. */
  readonly bytes: Uint8Array;
  readonly contentType: string;
}

/** Says whether a page has what its plan asks for, as it should get that. */
export type PageJudge = (page: ReceivedPage, signal: AbortSignal) => Promise<readonly PartDelivery[]>;

export interface JudgeTools {
  readonly readers: Readers;
  readonly client: SiteClient;
}
