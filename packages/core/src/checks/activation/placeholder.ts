import { partName } from '../../snapshot/index.js';
import type { CheckedSet } from '../checked-set.js';
import { defineCheck } from '../check.js';
import { evidence, subject } from '../evidence.js';
import { marksOfKind } from './of-facts.js';

export const placeholder = defineCheck({
  id: 'placeholder',
  area: 'activation',
  severity: 'error',
  title: 'An example value instead of your own',
  why: 'The code still has the example value from the instructions. It reports to nobody, or to somebody else.',
  asks: ['recipes'],
  messages: {
    example: {
      title: '{part} still has the example value “{value}”',
      advice:
        'Find your own value on the provider’s page, often under “account” or “installation”, and enter it here.',
    },
    'of-recipe': {
      title: '{part} has the example account from the instructions, “{value}”',
      advice:
        'The recipe “{recipe}” gives it as an example. Find your own {label} on the provider’s page, and enter it here.',
    },
  },
  roles: {
    placeholder: 'stands for your own value',
    likely: 'looks like an example',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://tallymast.example/count.js?id=YOUR_ACCOUNT_ID"></script>',
        },
      ],
    },
  ],
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
    yield* marksOfKind(set, 'placeholder', (part, mark) => ({
      message: 'example',
      params: { part: partName(part), value: mark.value },
      role: mark.confidence === 'certain' ? 'placeholder' : 'likely',
      severity: mark.confidence === 'certain' ? 'error' : 'warning',
    }));
    yield* examplesOfRecipes(set);
  },
});

/** Accounts that a recipe's fields have for an example, in what was pasted by hand. */
function* examplesOfRecipes(set: CheckedSet) {
  if (set.book.newest.length === 0) return;
  for (const part of set.running) {
    const recipe = set.recipeOf(part.snippet);
    if (!recipe || part.snippet.recipe) continue;
    const isMarked = new Set(part.facts.marks.map(({ value }) => value));
    for (const { value, range } of part.facts.accounts) {
      const field = recipe.fields.find(({ example }) => example === value);
      if (!field || isMarked.has(value)) continue;
      yield {
        about: value,
        message: 'of-recipe' as const,
        params: { part: partName(part), value, recipe: recipe.name, label: field.label },
        subjects: [subject(part)],
        evidence: [evidence(part, range, 'placeholder' as const)],
      };
    }
  }
}
