import type {
  ElementNamesResource,
  ElementNamesWish,
  PlaceCheckResource,
  PlaceCheckWish,
} from '@pragmatica/contract';
import {
  filledSnapshot,
  orderedParts,
  pageMatcher,
  withoutGroups,
  type PageRules,
  type PageText,
  type PlacedPart,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import type { SiteClient } from '../outgoing/site-client.js';
import { fetchPageTexts } from '../pages/page-texts.js';
import { sample } from '../pages/page-skeletons.js';
import type { Readers } from '../reading/readers.js';
import { hostsOf } from '../storage/hosts.js';
import type { Host, Site } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { chooseHost } from './choose-host.js';
import type { Sets } from './sets.js';
import { findSite } from './site-lock.js';
import { pagesOfHost } from './site-pages.js';
import { loadEvidence } from './visits/visit-detail.js';
import { findRound } from './visits/visit-resource.js';

/** For all pages that are looked at together. */
const TIMEOUT_MS = 5_000;

export interface NamingTools {
  readonly sets: Sets;
  readonly client: SiteClient;
  readonly readers: Readers;
}

/**
 * Selectors for an element of a picture, the best for the pages that are meant first.
 *
 * @throws ServiceError 404 for no such site or picture
 */
export async function nameElement(
  tools: NamingTools,
  store: Store,
  key: string,
  number: number,
  { element, side, code, pages }: ElementNamesWish,
): Promise<ElementNamesResource> {
  const { site, round } = await findRound(store, key, number);
  if (!round.options.picture) throw new ServiceError('no-such-round', { site: key, number: String(number) });
  const { evidence } = await loadEvidence(store, key, number, 1);
  const load = evidence.loads.at(-1);
  const [path = '/'] = typeof round.options.pages === 'string' ? [] : round.options.pages;
  const host = chooseHost(await hostsOf(store, site), key, round.environment, round.host);
  const { texts, known, ours } = await pagesInReach(tools, store, site, host, pages);
  const others = texts.filter((one) => one.path !== path);
  const marked = { path, html: load?.html ?? '' };
  const { choices, reason } = await tools.readers.run('chooseSelector', {
    marked,
    number: element,
    side,
    code,
    others,
    ours,
  });
  return {
    choices: choices.map(({ selector, holdsOn, missingOn }) => ({
      selector,
      holdsOn: [...holdsOn],
      missingOn: [...missingOn],
    })),
    looked: others.length + 1,
    known,
    reason: reason ?? null,
  };
}

/** On which of the pages that are meant code has a place. @throws ServiceError 404 */
export async function checkPlace(
  tools: NamingTools,
  store: Store,
  key: string,
  { placement, code, pages, environment, host: named }: PlaceCheckWish,
): Promise<PlaceCheckResource> {
  const site = await findSite(store, key);
  const host = chooseHost(await hostsOf(store, site), key, environment, named);
  const { texts, known, ours } = await pagesInReach(tools, store, site, host, pages);
  const outcomes = await tools.readers.run('placeOnPages', { placement, code, pages: texts, ours });
  return { pages: outcomes.map((one) => ({ ...one })), known };
}

interface PagesInReach {
  readonly texts: readonly PageText[];
  readonly known: number;
  /** What we may have put into them. */
  readonly ours: { readonly site: string; readonly placed: readonly PlacedPart[] };
}

/** A sample of the known pages on which something runs, and how many there are. */
async function pagesInReach(
  { client, sets }: NamingTools,
  store: Store,
  site: Site,
  host: Host,
  rules: PageRules | undefined,
): Promise<PagesInReach> {
  const { paths } = await pagesOfHost(client, store, site, host);
  const matcher = pageMatcher(withoutGroups(rules ?? { include: [], exclude: [] }, site.pageGroups));
  const meant = paths.filter((path) => matcher.match(path).matches);
  const access = await client.accessIfLetIn(store, site, host);
  const served = await sets.served(store, site, host.environment);
  return {
    texts: await fetchPageTexts(client, host, sample(meant), access, TIMEOUT_MS),
    known: meant.length,
    ours: {
      site: site.key,
      placed: served ? orderedParts(filledSnapshot(served.snapshot, host.environment)) : [],
    },
  };
}
