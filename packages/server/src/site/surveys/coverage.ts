import type { CoverageResource } from '@pragmatica/contract';
import { coverageOf, snippetOfPart, type CoveredPages } from '@pragmatica/core';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import type { Survey } from '../../storage/surveys.js';
import type { SiteSurveys } from './site-surveys.js';

/** Pages × snippets of a survey: what the plan asked for, against what stood there. */
export async function showCoverage(
  surveys: SiteSurveys,
  store: Store,
  site: Site,
  survey: Survey,
): Promise<Omit<CoverageResource, 'survey'>> {
  const { groups, compositions } = await surveys.book.seen(store, survey);
  const { snapshot } = await surveys.sets.draft(store, site);
  const names = new Map(snapshot.snippets.map(({ key, name }) => [key, name]));
  const covered = groups.map(({ composition, ...group }): CoveredPages => {
    const { expected, missing } = compositions.get(composition)!;
    return { ...group, expected: snippetsOf(expected), missing: snippetsOf(missing) };
  });
  const asked = new Set(covered.flatMap(({ expected }) => expected));
  const inOrder = [...names.keys(), ...asked].filter((key, index, all) => all.indexOf(key) === index);
  const { rows, snippets } = coverageOf(
    covered,
    inOrder.filter((key) => asked.has(key)),
  );
  return {
    rows: rows.map((row) => ({ ...row, cells: { ...row.cells } })),
    snippets: snippets.map((one) => ({ ...one, name: names.get(one.snippet) ?? one.snippet })),
  };
}

/** Keys of the snippets of parts. */
function snippetsOf(parts: readonly string[]): string[] {
  return [...new Set(parts.map(snippetOfPart))];
}
