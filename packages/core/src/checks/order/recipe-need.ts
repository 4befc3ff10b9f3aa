import { partName, type SnapshotSnippet } from '../../snapshot/index.js';
import { type CheckedSet } from '../checked-set.js';
import { exampleRecipe } from '../examples.js';
import { subject } from '../evidence.js';
import type { Check } from '../check.js';
import { whyMissing } from './why-missing.js';

const QUESTION = '<script src="https://biscuitkeel.example/ask.js"></script>';
const PIXEL = '<script async src="https://glintpixel.example/pixel.js?id=GP-40-77"></script>';

function problemOf(set: CheckedSet, snippet: SnapshotSnippet, install: SnapshotSnippet): string | undefined {
  if (install.state !== 'on') return whyMissing(install.state, undefined);
  return whyMissing(install.state, set.outside(snippet, install));
}

export const recipeNeed: Check = {
  id: 'recipe-need',
  area: 'order',
  severity: 'error',
  title: 'Something that must come first, as the recipe says, and does not',
  why: 'The recipe of this snippet says what has to run before it. Visitors get it without that, or too early.',
  given: 'The recipe of the pixel says that the question must run before it.',
  recipes: [
    exampleRecipe('biscuitkeel-question', 'Biscuitkeel question', {
      recognise: { hosts: ['biscuitkeel.example'], addresses: [], globals: [] },
    }),
    exampleRecipe('glintpixel', 'Glintpixel', { after: ['biscuitkeel-question'] }),
  ],
  isFixable: true,
  wrong: [
    {
      name: 'Advert pixel',
      recipe: 'glintpixel',
      parts: [{ placement: 'head-start', code: PIXEL }],
    },
    { name: 'Cookie question', parts: [{ placement: 'head-end', code: QUESTION }] },
  ],
  right: [
    { name: 'Cookie question', parts: [{ placement: 'head-start', code: QUESTION }] },
    {
      name: 'Advert pixel',
      recipe: 'glintpixel',
      parts: [{ placement: 'head-end', code: PIXEL }],
    },
  ],
  *run(set) {
    for (const dependency of set.order.dependencies) {
      const { first, then, reason, verdict } = dependency;
      if (reason.kind !== 'recipe' || verdict !== 'wrong') continue;
      const fix = set.order.fixFor(dependency);
      yield {
        about: `order ${first.snippet.key}`,
        title: `${partName(then)} needs ${partName(first)}, which comes later`,
        advice: `Its recipe, “${set.recipeOf(then.snippet)!.name}”, says so. Move ${partName(first)} in front of ${partName(then)}.`,
        subjects: [subject(then), subject(first)],
        evidence: [],
        ...(fix ? { fix } : {}),
      };
    }
    const { snippets } = set.snapshot;
    for (const snippet of snippets) {
      if (snippet.state !== 'on') continue;
      for (const key of set.recipeOf(snippet)?.after ?? []) {
        const installs = set.installs(key).filter((other) => other !== snippet);
        // One that is there wherever it is needed is enough.
        if (installs.some((install) => problemOf(set, snippet, install) === undefined)) continue;
        const install = installs[0];
        const first = install && { install, problem: problemOf(set, snippet, install) };
        const name = first ? `“${first.install.name}”` : `“${set.book.find(key)?.name ?? key}”`;
        yield {
          about: `there ${key}`,
          title: first
            ? `“${snippet.name}” needs ${name}, which ${first.problem!}`
            : `“${snippet.name}” needs ${name}, which this site does not have`,
          advice: first
            ? `Let ${name} run wherever “${snippet.name}” runs.`
            : `Apply the recipe ${name} to this site; it has to run before “${snippet.name}”.`,
          subjects: [
            { snippet: snippet.key, name: snippet.name },
            ...(first ? [{ snippet: first.install.key, name: first.install.name }] : []),
          ],
          evidence: [],
        };
      }
    }
  },
};
