import type { SurveyedPageResource } from '@pragmatica/contract';
import {
  CARRIER_PART,
  PAGE_TRAITS,
  type Composition,
  type PagePolicies,
  type PageTrait,
  type PageType,
} from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import { toPage } from '../../storage/cursor.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { listSurveyPages, surveyPageByPath, type SurveyPageRow } from '../../storage/survey-reads.js';
import type { Survey } from '../../storage/surveys.js';
import { keptPolicies } from '../../survey/kept-policies.js';
import { isOwnFile } from './sightings.js';
import type { SiteSurveys } from './site-surveys.js';

export interface PageListing {
  readonly q: string;
  readonly section?: string | undefined;
  readonly type?: PageType | undefined;
  readonly only: 'all' | 'problems' | 'missing' | 'redirects';
  readonly sighting?: number | undefined;
  readonly trait?: PageTrait | undefined;
  readonly limit: number;
  readonly after?: readonly [path: string] | undefined;
}

/** Pages that a survey found, by path. @throws ServiceError 404 for a sighting that is none of the site's */
export async function listPagesOf(
  surveys: SiteSurveys,
  store: Store,
  site: Site,
  survey: Survey,
  { q, section, type, only, sighting, trait, limit, after }: PageListing,
) {
  const { compositions: known } = await surveys.book.seen(store, survey);
  const wanted =
    sighting === undefined ? undefined : (await surveys.sighting(store, site, survey, sighting)).compositions;
  const lacking = [...known].filter(([, { missing }]) => missing.length > 0).map(([id]) => id);
  const compositions = only === 'missing' ? (wanted ?? lacking).filter((id) => lacking.includes(id)) : wanted;
  const { rows, total } = await listSurveyPages(store, survey.id, {
    searched: q,
    section,
    type,
    only: only === 'missing' ? 'all' : only,
    compositions,
    trait,
    limit,
    after,
  });
  const { page, next } = toPage(rows, limit, ({ path }) => [path]);
  const items = page.map((row) => pageResource(row, known.get(row.composition ?? 0)));
  const traits = [...(await surveys.book.traits(store, survey))].sort(
    (a, b) => PAGE_TRAITS.indexOf(a.trait) - PAGE_TRAITS.indexOf(b.trait),
  );
  return { items, next, total, traits };
}

function pageResource(row: SurveyPageRow, composition: Composition | undefined): SurveyedPageResource {
  return {
    path: row.path,
    state: row.state < 2 ? 'waiting' : 'visited',
    outcome: row.outcome,
    status: row.status,
    title: row.title ?? '',
    type: row.type,
    section: row.section ?? '',
    foundBy: row.foundBy,
    language: row.language ?? '',
    charset: row.charset ?? '',
    charsetFrom: row.charsetFrom ?? '',
    canonical: row.canonical,
    leadsTo: row.leadsTo,
    traits: [...row.traits],
    bytes: row.bytes,
    expected: [...(composition?.expected ?? [])],
    missing: [...(composition?.missing ?? [])],
  };
}

/** All that a survey knows of one page. @throws ServiceError 404 */
export async function showPage(surveys: SiteSurveys, store: Store, site: Site, survey: Survey, path: string) {
  const row = await surveyPageByPath(store, survey.id, path);
  if (!row) throw new ServiceError('page-not-surveyed', { path, number: survey.number });
  const { compositions } = await surveys.book.seen(store, survey);
  const composition = compositions.get(row.composition ?? 0);
  const described = new Map((await surveys.described(store, site, survey)).map((one) => [one.row.key, one]));
  const items = (composition?.items ?? []).map((item, index) => {
    const one = described.get(item.sighting);
    return {
      sighting: one?.row.id ?? null,
      name: one?.row.name ?? '',
      kind: item.kind,
      state: item.state,
      place: item.place,
      standing:
        item.part === undefined ? (one?.standing === 'ours' ? 'copy' : (one?.standing ?? 'foreign')) : 'ours',
      isOwnFile: one !== undefined && isOwnFile(one),
      part: item.part === CARRIER_PART ? null : (item.part ?? null),
      snippet: one?.match?.snippet ?? null,
      start: row.starts?.[index] ?? null,
    } as const;
  });
  const { policies, permissionsPolicy, embedderPolicy }: PagePolicies =
    row.policies === null ? { policies: [] } : keptPolicies(row.policies);
  return {
    ...{ ...pageResource(row, composition), items, policies: [...policies] },
    ...{ permissionsPolicy: permissionsPolicy ?? null, embedderPolicy: embedderPolicy ?? null },
  };
}
