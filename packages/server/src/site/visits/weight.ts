import type { WeightResource } from '@pragmatica/contract';
import { heldAgainst, pageWeights, type LoadTotals, type WeighedPage } from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import { watchOf } from '../../storage/site-watches.js';
import type { Store } from '../../storage/store.js';
import { lastWeighing, roundByNumber } from '../../storage/visit-rounds.js';
import { visitsOf } from '../../storage/visits.js';
import { findSite } from '../site-lock.js';

/**
 * What pages cost with the snippets and without, as visits have seen it, held against the site's budget.
 *
 * @param number - of the round; the newest that came to its end when left out
 * @throws ServiceError 404
 */
export async function showWeight(store: Store, key: string, number?: number): Promise<WeightResource> {
  const site = await findSite(store, key);
  const round =
    number === undefined ? await lastWeighing(store, site) : await roundByNumber(store, site, number);
  if (!round)
    throw number === undefined
      ? new ServiceError('no-weighing-yet', { site: key })
      : new ServiceError('no-such-round', { site: key, number });
  if (!round.options.weigh) throw new ServiceError('not-a-weighing', { number: round.number });
  const { budgetKb } = await watchOf(store, site);
  const visits = (await visitsOf(store, round)).filter(({ state }) => state === 'done' || state === 'failed');
  const { pages, failed } = pageWeights(visits.map((visit) => ({ ...visit, judged: visit.judged ?? [] })));
  const weighed = pages.map((page) => heldAgainst(page, budgetKb));
  return {
    ...{ round: round.number, host: round.host, environment: round.environment, release: round.release },
    isRehearsal: round.options.draft === true,
    endedAt: round.endedAt?.toISOString() ?? null,
    budgetKb,
    isWithin: isWithinAll(weighed, failed.length > 0 || weighed.length === 0),
    pages: weighed.map(toResource),
    failed: [...failed],
  };
}

/** @param isUnsure - pages are missing that may be over the budget */
function isWithinAll(pages: readonly WeighedPage[], isUnsure: boolean): boolean | null {
  if (pages.some(({ isWithin }) => isWithin === false)) return false;
  return isUnsure || pages.some(({ isWithin }) => isWithin === undefined) ? null : true;
}

function toResource(page: WeighedPage): WeightResource['pages'][number] {
  const { full, bare, adds, snippets, sharedBytes, isWithin, ...rest } = page;
  return {
    ...rest,
    ...{ full: figures(full), bare: figures(bare), adds: figures(adds), isWithin: isWithin ?? null },
    sharedBytes: Math.round(sharedBytes),
    snippets: snippets.map((one) => ({ ...one, adds: figures(one.adds) })),
  };
}

function figures({
  readyMs,
  requests,
  bytes,
  blockingMs,
  shift,
}: LoadTotals): WeightResource['pages'][number]['full'] {
  return {
    ...{ requests: Math.round(requests), bytes: Math.round(bytes), blockingMs: Math.round(blockingMs) },
    shift: Math.round(shift * 1_000) / 1_000,
    readyMs: readyMs === undefined ? null : Math.round(readyMs),
  };
}
