import { partName, type SnapshotSnippet } from '../../snapshot/index.js';
import { type CheckedSet } from '../checked-set.js';
import { exampleRecipe } from '../examples.js';
import { subject } from '../evidence.js';
import { byRecipe } from '../ties/by-recipe.js';
import { defineCheck } from '../check.js';
import { NO_MOVES, ORDER_FIX } from '../set-order.js';
import { whyMissing, type Missing } from './why-missing.js';

const QUESTION = '<script src="https://biscuitkeel.example/ask.js"></script>';
const PIXEL = '<script async src="https://glintpixel.example/pixel.js?id=GP-40-77"></script>';

function problemOf(set: CheckedSet, snippet: SnapshotSnippet, install: SnapshotSnippet): Missing | undefined {
  if (install.state !== 'on') return whyMissing(install.state, undefined);
  return whyMissing(install.state, set.outside(snippet, install));
}

export const recipeNeed = defineCheck({
  id: 'recipe-need',
  area: 'order',
  severity: 'error',
  title: 'Something that the recipe wants first does not come first',
  why: 'The recipe says what has to run before this snippet. Visitors get it without that, or too early.',
  given: 'The recipe of the pixel says that the question must run before it.',
  recipes: [
    exampleRecipe('biscuitkeel-question', 'Biscuitkeel question', {
      recognise: { hosts: ['biscuitkeel.example'], addresses: [], globals: [] },
    }),
    exampleRecipe('glintpixel', 'Glintpixel', { after: ['biscuitkeel-question'] }),
  ],
  asks: ['recipes'],
  messages: {
    later: {
      title: '{user} needs {maker}, which comes later',
      advice: 'Its recipe, “{recipe}”, says so. Move {maker} above {user}.',
      fix: ORDER_FIX,
    },
    off: {
      title: '“{snippet}” needs “{needed}”, which is switched off',
      advice: 'Run “{needed}” wherever “{snippet}” runs.',
    },
    archived: {
      title: '“{snippet}” needs “{needed}”, which is archived',
      advice: 'Run “{needed}” wherever “{snippet}” runs.',
    },
    'other-pages': {
      title: '“{snippet}” needs “{needed}”, which does not run on {page}',
      advice: 'Run “{needed}” wherever “{snippet}” runs.',
    },
    'not-installed': {
      title: '“{snippet}” needs “{needed}”, which this site does not have',
      advice: 'Apply the recipe “{needed}” to this site; it has to run before “{snippet}”.',
    },
  },
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
  ties: [byRecipe],
  *runOnWhole(set) {
    for (const dependency of set.order.dependencies) {
      const { first, then, reason, verdict } = dependency;
      if (reason.kind !== 'recipe' || verdict !== 'wrong') continue;
      const fix = set.order.fixFor(dependency);
      yield {
        about: `order ${first.snippet.key}`,
        message: 'later',
        params: {
          user: partName(then),
          maker: partName(first),
          recipe: set.recipeOf(then.snippet)!.name,
          ...NO_MOVES,
          ...fix?.params,
        },
        subjects: [subject(then), subject(first)],
        evidence: [],
        ...(fix ? { fix: fix.fix } : {}),
      };
    }
  },
  *run(set) {
    for (const snippet of set.snapshot.snippets) {
      if (snippet.state !== 'on') continue;
      for (const key of set.recipeOf(snippet)?.after ?? []) {
        const installs = set.installs(key).filter((other) => other !== snippet);
        // One that is there wherever it is needed is enough.
        if (installs.some((install) => problemOf(set, snippet, install) === undefined)) continue;
        const install = installs[0];
        const missing = install && problemOf(set, snippet, install);
        yield {
          about: `there ${key}`,
          message: missing?.message ?? 'not-installed',
          params: {
            snippet: snippet.name,
            needed: install?.name ?? set.book.find(key)?.name ?? key,
            page: missing?.page ?? '',
          },
          subjects: [
            { snippet: snippet.key, name: snippet.name },
            ...(install ? [{ snippet: install.key, name: install.name }] : []),
          ],
          evidence: [],
        };
      }
    }
  },
});
