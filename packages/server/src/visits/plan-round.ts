import {
  neededVisits,
  samplePages,
  weighingVisits,
  sampledWords,
  type KnownPage,
  type SampledPage,
  type Snapshot,
  type VisitChoice,
} from '@pragmatica/core';
import type { Host } from '../storage/rows.js';
import type { GivenVisit, RoundOptions } from '../storage/visit-rounds.js';

/** No round is longer: more is said to be left out. */
const MAX_VISITS = 400;
/** Each page takes a visit for each snippet, so that few pages tell enough. */
const MAX_WEIGHED = 3;

/**
 * The visits of a round: those that were given, or those that each of its pages needs.
 *
 * @param known - the pages that are known of the host
 */
export function planRound(
  { pages, devices, given, weigh }: RoundOptions,
  snapshot: Snapshot,
  { host, environment }: Pick<Host, 'host' | 'environment'>,
  known: readonly KnownPage[],
  now: number,
): readonly GivenVisit[] {
  if (given) return given;
  const sampled = pages === 'sample' ? samplePages(snapshot, environment, host, known, now) : [];
  if (weigh) {
    const chosen = pages === 'sample' ? sampled.slice(0, MAX_WEIGHED).map(({ path }) => path) : pages;
    const weighed = chosen === 'all' ? known.map(({ path }) => path) : chosen.length > 0 ? chosen : ['/'];
    return weighed
      .flatMap((path) => (devices ?? ['phone']).map((device) => ({ path, device })))
      .flatMap(({ path, device }) =>
        weighingVisits(snapshot, { host, environment, path, device, now }).map((visit) => ({
          path,
          ...visit,
        })),
      )
      .slice(0, MAX_VISITS);
  }
  const choice = { now, ...(devices ? { devices } : {}) };
  if (sampled.length > 0) return sampleVisits(sampled, snapshot, choice).slice(0, MAX_VISITS);
  const paths = pages === 'all' ? known.map(({ path }) => path) : pages === 'sample' ? [] : pages;
  return (paths.length > 0 ? paths : ['/'])
    .flatMap((path) => neededVisits(snapshot, { ...choice, path }).map((visit) => ({ path, ...visit })))
    .slice(0, MAX_VISITS);
}

/** What a snippet waits for is shown both ways on the first page that is there for it; on the others it only has to come. */
function sampleVisits(
  sampled: readonly SampledPage[],
  snapshot: Snapshot,
  choice: Pick<VisitChoice, 'now' | 'devices'>,
): readonly GivenVisit[] {
  const shownElsewhere = new Set<string>();
  return sampled.flatMap((page) => {
    const { path, covers } = page;
    const why = sampledWords(page, snapshot);
    const visits = neededVisits(snapshot, { ...choice, path, snippets: covers, shownElsewhere });
    for (const key of covers) shownElsewhere.add(key);
    return visits.map((visit) => ({ path, ...visit, because: `${visit.because} ${why}`.trim() }));
  });
}
