import type { SightingMatch } from './matches.js';

/**
 * How a thing in the pages stands to the snippets: put there by one; another copy of what one installs; what one
 * installs, changed on the way or by hand; or nothing that Pragmatica knows.
 */
export const STANDINGS = ['ours', 'copy', 'altered', 'foreign'] as const;
export type Standing = (typeof STANDINGS)[number];

/** On how many pages a sighting stands. */
export interface SightingPages {
  /** As a piece of the part that the page plan asks for. */
  readonly ours: number;
  /** Otherwise. */
  readonly others: number;
  /** Otherwise, on pages where the part that it matches is missing. */
  readonly instead: number;
  /** Both: as a piece of ours, and otherwise. */
  readonly twice: number;
}

/** @param match - what it is an install of, if it is one */
export function standingOf(pages: SightingPages, match: SightingMatch | undefined): Standing {
  if (pages.others === 0) return 'ours';
  if (!match) return 'foreign';
  const isChanged = match.kind !== 'same' && pages.instead > 0;
  return isChanged || match.kind === 'other-account' ? 'altered' : 'copy';
}
