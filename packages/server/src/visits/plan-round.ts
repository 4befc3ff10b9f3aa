import { neededVisits, samplePages, sampledWords, type KnownPage, type Snapshot } from '@pragmatica/core';
import type { Host } from '../storage/rows.js';
import type { GivenVisit, RoundOptions } from '../storage/visit-rounds.js';

/** No round is longer: more is said to be left out. */
const MAX_VISITS = 400;

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
  const sampled = pages === 'sample' ? samplePages(snapshot, environment, host, known, now) : [];
  const why = new Map(sampled.map((page) => [page.path, sampledWords(page, snapshot)]));
  const paths =
    pages === 'all' ? known.map(({ path }) => path) : pages === 'sample' ? [...why.keys()] : pages;
  return (paths.length > 0 ? paths : ['/'])
    .flatMap((path) =>
      neededVisits(snapshot, { path, now, ...(devices ? { devices } : {}) }).map((visit) => ({
        path,
        ...visit,
        because: [visit.because, why.get(path) ?? ''].join(' ').trim(),
      })),
    )
    .slice(0, MAX_VISITS);
}
