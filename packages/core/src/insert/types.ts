import type { Placement } from './placements.js';
import type { InsertNote, LeftOutReason } from './reasons.js';

export interface InsertPart {
  /** Names the part in the result; not written into the page. */
  readonly key: string;
  readonly placement: Placement;
  readonly code: string;
}

export type InsertOutcome =
  | {
      readonly key: string;
      readonly inserted: true;
      /** Byte offset in the page as it came, from 0. */ readonly offset: number;
      /** Present where it stands elsewhere than usual, with the same in plain words. */
      readonly note?: InsertNote;
      readonly message?: string;
    }
  | {
      readonly key: string;
      readonly inserted: false;
      readonly reason: LeftOutReason;
      /** The reason in plain words. */ readonly message: string;
    };

export interface InsertOptions {
  /** The encoding the transport declared (`Content-Type: …; charset=…`), as a label of the Encoding Standard. */
  readonly encoding?: string | undefined;
  /** Read pages with JavaScript even where WebAssembly could: slower, and the same. */
  readonly plain?: boolean | undefined;
}

export interface InsertResult {
  /** The page with the parts in it, in the page's own encoding. */
  readonly page: Uint8Array;
  /** One outcome for each part, in the order in which the parts were given. */
  readonly outcomes: readonly InsertOutcome[];
}
