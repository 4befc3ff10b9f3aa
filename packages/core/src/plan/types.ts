import type { Placement } from '../insert/index.js';
import type { OutOfReach, PageLoad } from '../reach/index.js';

export interface PlannedPart {
  readonly key: string;
  readonly snippet: string;
  readonly name: string;
  readonly placement: Placement;
  /** As it goes into the page. */
  readonly code: string;
  /** What the visitor's browser waits for before it runs, in words; left out where it runs at once. */
  readonly waits?: string;
}

export type SnippetLeftOutReason = 'off' | 'archived' | 'no-code' | 'not-published' | OutOfReach;

export interface Reason {
  readonly reason: SnippetLeftOutReason;
  readonly message: string;
}

/** A snippet that a page load does not get: the first reason, and all of them. */
export interface LeftOutSnippet extends Reason {
  readonly snippet: string;
  readonly name: string;
  readonly reasons: readonly Reason[];
}

/** Exactly what one page load gets, in page order, and why each other snippet does not run there. */
export interface PagePlan {
  /** The path as the URL Standard writes it. */
  readonly path: string;
  readonly load: PageLoad;
  readonly parts: readonly PlannedPart[];
  readonly leftOut: readonly LeftOutSnippet[];
  /** When opening hours next change what this page load gets; milliseconds since 1970. */
  readonly until?: number;
}
