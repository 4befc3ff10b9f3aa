import type { Facts } from '../../facts/index.js';
import type { LoadEvidence } from '../../visit/index.js';
import type { Attribution } from '../attribution.js';
import type { PartDelivery } from '../delivered.js';
import type { Expected, ExpectedPart } from '../expectation.js';

/** How far a snippet came, one rung above the other. */
export const RUNGS = ['delivered', 'loaded', 'ran', 'shown', 'reported'] as const;
export type Rung = (typeof RUNGS)[number];

export type RungState =
  | 'reached'
  | 'failed'
  /** Below a rung that failed. */
  | 'not-reached'
  /** Things of its kind have no such rung. */
  | 'none'
  /** It waits for something that the visitor has not done. */
  | 'waiting';

/** Who can change what keeps a rung from being reached. */
export type Responsible =
  /** Whoever works here. */
  | 'you'
  /** Whoever may change the site's own pages or its server. */
  | 'site'
  | 'provider'
  /** Whoever looks at the page. */
  | 'visitor'
  | 'unknown';

/** Why a rung was not reached. */
export interface Cause {
  /** For programs; stays the same. */
  readonly id: string;
  /** In one sentence. */
  readonly message: string;
  readonly advice: string;
  readonly who: Responsible;
  /** What shows it: addresses with their answers, errors with their places. */
  readonly evidence: readonly string[];
}

export interface RungResult {
  readonly rung: Rung;
  readonly state: RungState;
  /** What was seen, or why not. */
  readonly message: string;
  readonly cause?: Cause;
  /** What went wrong without doing harm. */
  readonly notes?: readonly string[];
}

/** A part with what was read out of its code. */
export interface ReadPart extends ExpectedPart {
  readonly facts: Facts;
}

/** What a rung is judged by. */
export interface RungCase {
  readonly snippet: string;
  readonly name: string;
  /** Parts of the snippet that the page load should have. */
  readonly parts: readonly ReadPart[];
  readonly deliveries: readonly PartDelivery[];
  readonly load: LoadEvidence;
  readonly attribution: Attribution;
  readonly expected: Expected;
  /** All parts of the set. */
  readonly all: readonly ReadPart[];
  /** Parts by the selectors that were asked about for them. */
  readonly probed: ReadonlyMap<string, string>;
}

/** What one rung by itself says, before those below it are looked at. */
export type RungFound =
  | { readonly state: 'reached' | 'none'; readonly message: string; readonly notes?: readonly string[] }
  | {
      readonly state: 'failed';
      readonly cause: Cause;
      /** The part's own code or file, not something further on. */ readonly isOwn: boolean;
    };
