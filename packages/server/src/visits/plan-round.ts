import { neededVisits, samplePages, type KnownPage, type Snapshot } from '@pragmatica/core';
import type { Host } from '../storage/rows.js';
import type { GivenVisit, RoundOptions } from '../storage/visit-rounds.js';

/** No round is longer: more is said to be left out. */
export const MAX_VISITS = 400;

/**
 * The visits of a round: those that were given, or those that each of its pages needs.
 *
 * @param known - the pages that are known of the host
 */
export function planRound(
  { pages, devices, given }: RoundOptions,
  snapshot: Snapshot,
  { host, environment }: Pick<Host, 'host' | 'environment'>,
  known: readonly KnownPage[],
  now: number,
): readonly GivenVisit[] {
  if (given) return given;
  const paths =
    pages === 'all'
      ? known.map(({ path }) => path)
      : pages === 'sample'
        ? samplePages(snapshot, environment, host, known, now).map(({ path }) => path)
        : pages;
  return (paths.length > 0 ? paths : ['/'])
    .flatMap((path) =>
      neededVisits(snapshot, { path, ...(devices ? { devices } : {}) }).map((visit) => ({ path, ...visit })),
    )
    .slice(0, MAX_VISITS);
}
