import type { LoadEvidence } from '../visit/index.js';

/** What a page load cost, whoever caused it. */
export interface LoadTotals {
  readonly requests: number;
  /** As they came over the line. */
  readonly bytes: number;
  /** In long tasks, beyond the 50 ms that nobody notices (Long Tasks; "total blocking time"). */
  readonly blockingMs: number;
  /** The sum of what moved without anybody's doing (Layout Instability). */
  readonly shift: number;
  /** Until the page could be read and its scripts in order had run; undefined where it never came to that. */
  readonly readyMs: number | undefined;
}

/** A task is felt from here on. */
export const UNNOTICED_MS = 50;

/** Adds up a page load. */
export function totalsOf(load: LoadEvidence): LoadTotals {
  return {
    requests: load.requests.length,
    bytes: load.requests.reduce((sum, { bytes }) => sum + bytes, 0),
    blockingMs: blockingOf(load),
    shift: shiftOf(load),
    readyMs: load.readyMs,
  };
}

export function shiftOf({ shifts }: Pick<LoadEvidence, 'shifts'>): number {
  return shifts.reduce((sum, { score }) => sum + score, 0);
}

export function blockingOf({ longTasks }: Pick<LoadEvidence, 'longTasks'>): number {
  return longTasks.reduce((sum, { durationMs }) => sum + Math.max(0, durationMs - UNNOTICED_MS), 0);
}
