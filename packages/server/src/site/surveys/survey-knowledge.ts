import {
  absentParts,
  filledSnapshot,
  gatherSightings,
  orderedParts,
  type AbsentPart,
  type ComposedPages,
  type EnvironmentName,
  type KnownFiles,
  type KnownPolicies,
  type KnownSighting,
  type PageSkeleton,
} from '@pragmatica/core';
import { releaseByNumber, releaseSnapshot } from '../../storage/releases.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { filesOf } from '../../storage/survey-files.js';
import { policiesOf, sightingsByKey, skeletonsOf } from '../../storage/survey-reads.js';
import { readPaths } from '../../storage/survey-pages.js';
import type { Survey } from '../../storage/surveys.js';
import { keptPolicies } from '../../survey/kept-policies.js';
import { toFileVersion } from '../../survey/read-files.js';
import type { Seen, SurveyBook } from './survey-book.js';

/** What a survey tells the checks. */
export interface SurveyKnowledge {
  readonly paths: readonly string[];
  readonly skeletons: readonly PageSkeleton[];
  readonly seen: readonly KnownSighting[];
  readonly absent: readonly AbsentPart[];
  readonly policies: readonly KnownPolicies[];
  readonly groups: readonly ComposedPages[];
  readonly files: KnownFiles;
  readonly hasMorePages: boolean;
}

/** More pages than this are not asked one by one. */
const MAX_PATHS = 10_000;
/** Makes of pages that parts are tried in, those of most pages first. */
const MAX_SKELETONS = 48;
/** Makes of pages that are asked one by one, those of most pages. */
const MAX_GROUPS = 500;
/** Policies with a nonce are another one on each page. */
const MAX_POLICIES = 50;

/** What is known of a site's pages by a survey. It never changes: what somebody ignores is left out by whoever asks. @param address - of the host */
export async function surveyKnowledge(
  book: SurveyBook,
  store: Store,
  site: Site,
  survey: Survey,
  address: string,
): Promise<SurveyKnowledge> {
  const seen = await book.seen(store, survey);
  const gathered = gatherSightings(seen.groups, seen.compositions);
  const rows = await sightingsByKey(
    store,
    site,
    gathered.map(({ key }) => key),
  );
  const byKey = new Map(rows.map((row) => [row.key, row]));
  const paths = await readPaths(store, survey.id, MAX_PATHS);
  return {
    paths,
    hasMorePages: survey.leftOut > 0 || paths.length === MAX_PATHS,
    skeletons: await skeletonsOf(store, survey.id, MAX_SKELETONS),
    seen: gathered.flatMap((one) => {
      const row = byKey.get(one.key);
      if (!row) return [];
      const { key, kind, code, name, provider, shape, accounts, loads, firstPath } = row;
      return [{ key, kind, code, name, provider, shape, accounts, loads, firstPath, seen: one }];
    }),
    absent: await absentOf(store, site, survey, seen),
    policies: knownPolicies(await policiesOf(store, survey.id, MAX_POLICIES), address),
    groups: [...seen.groups].sort((a, b) => b.pages - a.pages).slice(0, MAX_GROUPS),
    files: { base: new URL(address).origin, files: (await filesOf(store, survey.id)).map(toFileVersion) },
  };
}

/** Policies that differ in their nonces only are one: a nonce is another one at every visit. */
function knownPolicies(
  rows: Awaited<ReturnType<typeof policiesOf>>,
  address: string,
): readonly KnownPolicies[] {
  const found = new Map<string, { body: string; paths: string[] }>();
  for (const { body, paths } of rows) {
    const key = body.replace(/'nonce-[^']*'/g, "'nonce-…'");
    const known = found.get(key) ?? { body, paths: [] };
    known.paths.push(...paths);
    found.set(key, known);
  }
  return [...found.values()].map(({ body, paths }) => ({
    ...keptPolicies(body),
    address,
    paths,
  }));
}

/** Parts of the release that the survey knew, and on how many of their pages they are not. */
async function absentOf(
  store: Store,
  site: Site,
  { release: number, environment }: Survey,
  { groups, compositions }: Seen,
): Promise<AbsentPart[]> {
  const release = number === null ? undefined : await releaseByNumber(store, site, number);
  if (!release) return [];
  const codes = await codesOf(store, release, environment);
  return absentParts(groups, compositions, (part) => codes.get(part) ?? '');
}

async function codesOf(
  store: Store,
  release: Parameters<typeof releaseSnapshot>[1],
  environment: EnvironmentName,
): Promise<ReadonlyMap<string, string>> {
  const snapshot = filledSnapshot(await releaseSnapshot(store, release), environment);
  return new Map(orderedParts(snapshot).map(({ key, part }) => [key, part.code]));
}
