import { exampleRecipe } from '../examples.js';
import { defineCheck } from '../check.js';

const OLD = '<script async src="https://old.tallymast.example/c.js?id=TM-7731"></script>';

export const recipeRetired = defineCheck({
  id: 'recipe-retired',
  area: 'activation',
  severity: 'warning',
  title: 'The provider has retired this install',
  why: 'It may stop working any day, without notice. Until then visitors keep loading it.',
  given: 'The recipe that knows the first by its address is retired.',
  recipes: [
    exampleRecipe('tallymast-old', 'Tallymast, old counter', {
      recognise: { hosts: ['old.tallymast.example'], addresses: [], globals: [] },
      retired: { reason: 'Tallymast switches the old counter off in May.' },
    }),
  ],
  asks: ['recipes'],
  messages: {
    retired: {
      title: '“{snippet}” uses a retired install: “{recipe}”',
      advice: '{reason} Ask the provider what replaces it, or switch it off.',
    },
    replaced: {
      title: '“{snippet}” uses a retired install: “{recipe}”',
      advice: '{reason} Apply the recipe “{next}” instead, and switch this one off.',
    },
    'in-pages': {
      title: 'The site itself has a retired install: “{recipe}”',
      advice:
        '{reason} It is written into {pages, plural, one {the page {page}} other {# pages, such as {page}}}. Remove it there{next, select, none {} other {, and apply the recipe “{next}” instead}}.',
    },
  },
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
        message: next === undefined ? 'retired' : 'replaced',
        params: {
          snippet: snippet.name,
          recipe: recipe.name,
          reason: reason.replace(/[.!]?$/, '.'),
          next: next ?? '',
        },
        subjects: [{ snippet: snippet.key, name: snippet.name }],
        evidence: [],
      };
    }
  },
  *runOnWhole(set) {
    const copies = new Set(set.hardCoded.map(({ sighting }) => sighting.key));
    for (const { facts, sighting } of set.heededThings) {
      const recipe = copies.has(sighting.key) ? undefined : set.book.recognise(facts);
      if (!recipe?.retired) continue;
      const { reason, replacedBy } = recipe.retired;
      const { pages, examples } = sighting.seen.others;
      yield {
        about: `${recipe.key} in ${sighting.key}`,
        message: 'in-pages',
        params: {
          recipe: recipe.name,
          reason: reason.replace(/[.!]?$/, '.'),
          pages,
          page: examples[0]!,
          next: replacedBy === undefined ? 'none' : (set.book.find(replacedBy)?.name ?? replacedBy),
        },
        subjects: [],
        evidence: [],
      };
    }
  },
});
