import type { Store } from '../storage/store.js';
import type { Environment, PagePlanResource, PlanQuery } from '@pragmatica/contract';
import {
  momentOf,
  momentWords,
  pageAddress,
  planDifference,
  planPage,
  withDraft,
  type PageLoad,
  type PagePlan,
  type Snapshot,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { hostsOf } from '../storage/hosts.js';
import type { Host, Site } from '../storage/rows.js';
import { fieldError } from '../texts/field-errors.js';
import type { Sets } from './sets.js';
import { findSite } from './site-lock.js';
import { SITE_TEXTS } from '../texts/site.js';

/** What one page load of a site gets, and why the rest is left out. @throws ServiceError 404, 422 */
export async function showPlan(
  sets: Sets,
  store: Store,
  key: string,
  query: PlanQuery & { readonly path: string },
): Promise<PagePlanResource> {
  const site = await findSite(store, key);
  const host = await findHost(store, site, query);
  const environment = host?.environment ?? query.environment ?? 'live';
  const { name, snapshot } = await sets.resolve(store, site, query.of ?? environment);
  const load = toLoad(query, snapshot, environment, host);
  const { snapshot: draft } = await sets.draft(store, site);
  const plan = planPage(snapshot, load);
  const isDraft = query.of === 'draft';
  const draftChanges = isDraft ? [] : planDifference(plan, planPage(draft, load));
  return toResource(isDraft ? plan : withDraft(plan, draft), name, snapshot, draftChanges);
}

/** The host that is asked about: the one named, or the first of the environment. @throws ServiceError 404 */
export async function findHost(
  store: Store,
  site: Site,
  query: Pick<PlanQuery, 'host' | 'environment'>,
): Promise<Host | undefined> {
  const hosts = await hostsOf(store, site);
  if (query.host === undefined)
    return hosts.find(({ environment }) => environment === (query.environment ?? 'live'));
  const named = query.host.toLowerCase();
  const host = hosts.find((entry) => entry.host === named);
  if (!host) {
    const known = hosts.map((entry) => entry.host).join(', ') || SITE_TEXTS.noneYet;
    throw new ServiceError('no-such-host', { site: site.key, host: named, known });
  }
  if (query.environment !== undefined && query.environment !== host.environment)
    throw new ServiceError(
      'host-elsewhere',
      { host: named, environment: host.environment, asked: query.environment },
      { errors: [fieldError('/environment', 'host-tells-environment', {})] },
    );
  return host;
}

/** The page load that is asked about. @throws ServiceError 422 for a purpose that the site does not define */
export function toLoad(
  query: Omit<PlanQuery, 'of'> & { readonly path: string },
  { site }: Snapshot,
  environment: Environment,
  host: Host | undefined,
): PageLoad {
  const { consent, visitor, width } = query;
  return {
    page: pageAddress(query.path, host?.host ?? ''),
    environment,
    device: query.device ?? 'desktop',
    at: toMoment(query.at, site.timeZone),
    consent: toConsent(consent ?? 'none', site),
    ...(visitor === undefined ? {} : { visitor }),
    ...(width === undefined ? {} : { width: Number(width) }),
  };
}

/** @throws ServiceError 422 for a purpose that the site does not define */
function toConsent(text: string, site: Snapshot['site']): string[] {
  const known = site.consent?.categories.map(({ key }) => key) ?? [];
  if (text === 'none' || text === '') return [];
  if (text === 'all') return known;
  const keys = text.split(',');
  const unknown = keys.find((key) => !known.includes(key));
  if (unknown === undefined) return keys;
  throw new ServiceError(
    'no-such-purpose',
    { purpose: unknown, known: known.join(', ') || SITE_TEXTS.noneYet },
    { errors: [fieldError('/consent', 'name-a-purpose', {})] },
  );
}

/** A time as it is asked for: on the site's clock where it says no offset, now where none is given. */
export function toMoment(at: string | undefined, zone: string): number {
  if (at === undefined) return Date.now();
  return /(?:Z|[+-]\d\d:?\d\d)$/i.test(at) ? Date.parse(at) : momentOf(at, zone);
}

function toResource(
  { load, parts, leftOut, path, until }: PagePlan,
  of: string,
  { site }: Snapshot,
  draftChanges: readonly string[],
): PagePlanResource {
  const { page, environment, at, device, consent, visitor = null, width = null } = load;
  return {
    path: path + (page.search === '' ? '' : `?${page.search}`),
    of,
    load: {
      host: page.host,
      environment,
      at: new Date(at).toISOString(),
      localTime: momentWords(at, site.timeZone),
      device,
      consent: [...consent],
      visitor,
      width,
    },
    parts: parts.map((part) => ({ ...part })),
    leftOut: leftOut.map((entry) => ({ ...entry, reasons: [...entry.reasons] })),
    until: until === undefined ? null : new Date(until).toISOString(),
    untilLocal: until === undefined ? null : momentWords(until, site.timeZone, at),
    draftChanges: [...draftChanges],
  };
}
