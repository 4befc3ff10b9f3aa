import type { SightingResource } from '@pragmatica/contract';
import {
  FileBook,
  STANDINGS,
  pageRulesWords,
  sightingWords,
  type SightingMatch,
  type Snapshot,
  type Standing,
} from '@pragmatica/core';
import { toPage } from '../../storage/cursor.js';
import { hostsOf } from '../../storage/hosts.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { filesOf } from '../../storage/survey-files.js';
import type { Survey } from '../../storage/surveys.js';
import { toFileVersion } from '../../survey/read-files.js';
import { surveyBase } from '../../survey/survey-base.js';
import { say } from '../../texts/say.js';
import { SURVEY_TEXTS } from '../../texts/survey.js';
import { proposalFor } from './proposal.js';
import type { SiteSurveys } from './site-surveys.js';
import type { DescribedSighting } from './survey-book.js';

export interface SightingListing {
  readonly standing?: Standing | undefined;
  readonly q: string;
  readonly ignored: 'hide' | 'show' | 'only';
  readonly own: 'hide' | 'show';
  readonly limit: number;
  /** How many came before. */
  readonly after?: readonly [number: number] | undefined;
}

/** What stands in the pages: what needs somebody first, then by how many pages it is on. */
export async function listSightings(
  surveys: SiteSurveys,
  store: Store,
  site: Site,
  survey: Survey,
  { standing, q, ignored, own, limit, after }: SightingListing,
) {
  const { snapshot } = await surveys.sets.draft(store, site);
  const all = await surveys.described(store, site, survey);
  const fit = all.filter(
    (one) =>
      (ignored === 'show' || (one.row.ignored !== null) === (ignored === 'only')) &&
      (own === 'show' || !isOwnFile(one)) &&
      hasWords(one, q),
  );
  const counts = Object.fromEntries(
    STANDINGS.map((name) => [name, fit.filter((one) => one.standing === name).length]),
  ) as Record<Standing, number>;
  const chosen = fit.filter((one) => standing === undefined || one.standing === standing).sort(byUrgency);
  const from = after?.[0] ?? 0;
  const { page, next } = toPage(chosen.slice(from, from + limit + 1), limit, () => [from + limit]);
  return { items: page.map((one) => sightingResource(one, snapshot)), next, counts };
}

const URGENCY: Readonly<Record<Standing, number>> = { altered: 0, copy: 1, foreign: 2, ours: 3 };

function byUrgency(a: DescribedSighting, b: DescribedSighting): number {
  return (
    URGENCY[a.standing] - URGENCY[b.standing] ||
    Number(isOwnFile(a)) - Number(isOwnFile(b)) ||
    b.total - a.total ||
    // Pages are read side by side: which of two was found first says nothing.
    compare(a.row.name, b.row.name) ||
    compare(a.row.code, b.row.code) ||
    a.row.id - b.row.id
  );
}

function compare(a: string, b: string): number {
  return a < b ? -1 : Number(a > b);
}

/** The site's own files, styles and notes for machines: nobody needs to look after these here. */
export function isOwnFile({ row, match }: DescribedSighting): boolean {
  return match === undefined && row.provider === '' && row.kind !== 'element';
}

function hasWords({ row, match }: DescribedSighting, searched: string): boolean {
  const text = [row.name, row.provider, row.code, match?.snippet ?? '', ...row.loads].join(' ').toLowerCase();
  return searched
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .every((word) => text.includes(word));
}

function matchResource({ snippet, part, kind, account }: SightingMatch) {
  return { snippet, part, kind, ...(account === undefined ? {} : { account }) };
}

function sightingResource(one: DescribedSighting, snapshot: Snapshot): SightingResource {
  const { row, standing, match, states, places, total, examples, pages } = one;
  const snippet = match && snapshot.snippets.find(({ key }) => key === match.snippet);
  return {
    id: row.id,
    kind: row.kind,
    name: row.name === '' ? SURVEY_TEXTS.unnamed : row.name,
    provider: row.provider,
    standing,
    match: match ? matchResource(match) : null,
    words: sightingWords(
      row,
      standing,
      states,
      pages.twice,
      match && { ...match, name: snippet?.name ?? match.snippet, isOn: snippet?.state === 'on' },
    ),
    accounts: row.accounts.map(({ value }) => value),
    loads: [...row.loads],
    states: [...states],
    places: [...places],
    pages: total,
    examples: [...examples],
    ignored: row.ignored,
    adopted: row.adopted,
  };
}

/** One sighting with its code, and how it would be adopted. @throws ServiceError 404 */
export async function showSighting(
  surveys: SiteSurveys,
  store: Store,
  site: Site,
  survey: Survey,
  id: number,
) {
  const { snapshot } = await surveys.sets.draft(store, site);
  const all = await surveys.described(store, site, survey);
  const one = await surveys.sighting(store, site, survey, id);
  const { row, match } = one;
  const { placement, rules, removal } = await proposalFor(store, survey, one);
  return {
    ...sightingResource(one, snapshot),
    code: row.code,
    before: row.before,
    after: row.after,
    firstPath: row.firstPath,
    proposal: {
      name: row.name === '' ? SURVEY_TEXTS.unnamed : row.name,
      placement,
      rules: { include: [...rules.include], exclude: [...rules.exclude] },
      words: pageRulesWords(rules),
    },
    companions: companionsOf(one, all).map((other) => ({
      id: other.row.id,
      name: other.row.name,
      kind: other.row.kind,
    })),
    files: await filesLoaded(store, site, survey, one),
    ourCode: one.standing === 'altered' ? (match?.code ?? null) : null,
    removal:
      one.standing === 'altered' && match?.kind !== 'other-account'
        ? say(SURVEY_TEXTS.excludeOnWay, { page: row.firstPath })
        : removal,
  };
}

/** The files that it loads, as the survey got them. */
async function filesLoaded(store: Store, site: Site, survey: Survey, { row }: DescribedSighting) {
  const host = (await hostsOf(store, site)).find((one) => one.host === survey.host);
  if (!host) return [];
  const files = (await filesOf(store, survey.id)).map(toFileVersion);
  const book = new FileBook(surveyBase(host, survey.side, {}).address, files);
  const found = row.loads.flatMap((address) => book.find(address, row.firstPath) ?? []);
  return [...new Set(found)].map(
    ({ address, status, bytes, cookies, stores, hosts, defines, isRead, lastModified }) => ({
      ...{ address, status, bytes, isRead, changedAt: lastModified },
      cookies: [...cookies],
      stores: [...stores],
      hosts: [...hosts],
      defines: [...defines],
    }),
  );
}

/** Of the same provider, on the same pages, and nobody's yet. */
function companionsOf(one: DescribedSighting, all: readonly DescribedSighting[]): DescribedSighting[] {
  if (one.row.provider === '') return [];
  const pages = [...one.compositions].sort().join();
  return all.filter(
    (other) =>
      other.row.id !== one.row.id &&
      other.row.provider === one.row.provider &&
      other.match === undefined &&
      [...other.compositions].sort().join() === pages,
  );
}
