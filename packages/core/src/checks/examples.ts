import { pageSkeleton } from '../contain/index.js';
import type { Field } from '../fields/index.js';
import { placementKey } from '../insert/index.js';
import type { ConsentRules } from '../reach/index.js';
import { RecipeBook, RECIPE_FORMAT, type Recipe } from '../recipes/index.js';
import type { Snapshot } from '../snapshot/index.js';
import type { Knowledge } from './checked-set.js';
import type { Check, ExampleSnippet } from './check.js';

/** A Monday, 10:00 UTC. */
export const EXAMPLE_NOW = Date.UTC(2027, 2, 1, 10);

const EXAMPLE_CONSENT: ConsentRules = {
  categories: [{ key: 'adverts', name: 'Adverts' }],
  cookie: 'consent',
  format: { kind: 'list' },
};

const EXAMPLE_FIELDS: readonly Field[] = [
  { name: 'counter_account', type: 'id', label: 'Account', example: 'TM-0000', value: 'TM-7731' },
  { name: 'unset_account', type: 'id', label: 'Account', example: 'TM-0000' },
];

/** A set of a check's example snippets, in the order in which they are given. */
export function exampleSet(snippets: readonly ExampleSnippet[]): Snapshot {
  const ranks = new Map<string, number>();
  const next = (placement: string): number => {
    const rank = ranks.get(placement) ?? 0;
    ranks.set(placement, rank + 1);
    return rank;
  };
  return {
    format: 'pragmatica-set/1',
    site: {
      key: 'example',
      name: 'Example',
      timeZone: 'UTC',
      consent: EXAMPLE_CONSENT,
      fields: EXAMPLE_FIELDS,
    },
    snippets: snippets.map(
      ({ name, parts, state = 'on', include = [], exclude = [], limits, needs, recipe }) => ({
        key: name.toLowerCase().replace(/[^a-z0-9]+/g, '-'),
        name,
        purpose: '',
        provider: '',
        note: '',
        state,
        pages: { include, exclude },
        ...(limits ? { limits } : {}),
        ...(needs ? { needs } : {}),
        ...(recipe === undefined ? {} : { recipe: { key: recipe, version: 1, fields: {} } }),
        parts: parts.map((part) => ({ ...part, rank: next(placementKey(part.placement)) })),
      }),
    ),
  };
}

/** What is known of the site of a check's examples. */
export function exampleKnowledge({ pages = {}, recipes = [] }: Pick<Check, 'pages' | 'recipes'>): Knowledge {
  const entries = Object.entries(pages);
  return {
    now: EXAMPLE_NOW,
    book: new RecipeBook(recipes),
    paths: entries.map(([path]) => path),
    skeletons: entries.map(([path, html]) => pageSkeleton(path, html)),
  };
}

/** A recipe for the examples of a check; what is not named is plain. */
export function exampleRecipe(key: string, name: string, change: Partial<Recipe>): Recipe {
  return {
    format: RECIPE_FORMAT,
    ...{ key, name, version: 1, provider: name, summary: name },
    ...{ parts: [], fields: [], after: [], steps: [], repeatable: false },
    recognise: { hosts: [], addresses: [], globals: [] },
    ...change,
  };
}
