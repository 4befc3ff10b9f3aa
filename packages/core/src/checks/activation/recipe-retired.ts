import { exampleRecipe } from '../examples.js';
import type { Check } from '../check.js';

const OLD = '<script async src="https://old.tallymast.example/c.js?id=TM-7731"></script>';

export const recipeRetired: Check = {
  id: 'recipe-retired',
  area: 'activation',
  severity: 'warning',
  title: 'An install that its provider has given up',
  why: 'It may stop working on any day, and nobody will say so. Visitors go on loading it until then.',
  given: 'The recipe that knows the first by its address is retired.',
  recipes: [
    exampleRecipe('tallymast-old', 'Tallymast, old counter', {
      recognise: { hosts: ['old.tallymast.example'], addresses: [], globals: [] },
      retired: { reason: 'Tallymast switches the old counter off in May.' },
    }),
  ],
  isFixable: false,
  wrong: [{ name: 'Old counter', parts: [{ placement: 'head-end', code: OLD }] }],
  right: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>',
        },
      ],
    },
  ],
  *run(set) {
    for (const snippet of set.snapshot.snippets) {
      if (snippet.state !== 'on') continue;
      const recipe = set.recipeOf(snippet);
      if (!recipe?.retired) continue;
      const { reason, replacedBy } = recipe.retired;
      const next = replacedBy === undefined ? undefined : (set.book.find(replacedBy)?.name ?? replacedBy);
      yield {
        about: recipe.key,
        title: `“${snippet.name}” is an install that is retired: “${recipe.name}”`,
        advice: `${reason.replace(/[.!]?$/, '.')} ${next === undefined ? 'Ask the provider what takes its place, or switch it off.' : `Apply the recipe “${next}” instead, and switch this one off.`}`,
        subjects: [{ snippet: snippet.key, name: snippet.name }],
        evidence: [],
      };
    }
  },
};
