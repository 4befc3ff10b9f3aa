import { pageSkeleton } from '../contain/index.js';
import type { DeliveryKey } from '../deliver/index.js';
import type { Field } from '../fields/index.js';
import { insert, placementKey } from '../insert/index.js';
import { planPage } from '../plan/index.js';
import { pageAddress, type ConsentRules } from '../reach/index.js';
import { RecipeBook, RECIPE_FORMAT, type Recipe } from '../recipes/index.js';
import type { Snapshot } from '../snapshot/index.js';
import type { KnownFile } from '../survey/index.js';
import type { Knowledge } from './knowledge.js';
import { seenInPages } from './seen-in-pages.js';
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
export function exampleSet(
  snippets: readonly ExampleSnippet[],
  consent: ConsentRules = EXAMPLE_CONSENT,
): Snapshot {
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
      consent,
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

/**
 * What is known of the site of a check's examples.
 *
 * @param set - what was published there: the pages are surveyed with its parts in them
 */
export function exampleKnowledge(
  {
    pages = {},
    headers = {},
    recipes = [],
    files = [],
    undelivered = [],
    delivery,
    boxes = [],
  }: Pick<Check, 'pages' | 'headers' | 'recipes' | 'files' | 'undelivered' | 'delivery' | 'boxes'>,
  set?: Snapshot,
): Knowledge {
  const entries = Object.entries(pages);
  return {
    now: EXAMPLE_NOW,
    book: new RecipeBook(recipes),
    files: { base: EXAMPLE_ADDRESS, files },
    paths: entries.map(([path]) => path),
    skeletons: entries.map(([path, html]) => pageSkeleton(path, html)),
    ...(delivery ? { ...exampleHost(delivery), boxes } : {}),
    ...(set ? exampleSurvey(entries, set, { headers, undelivered }) : {}),
  };
}

/** What a survey of pages sees, into which the parts of a set are put. */
function exampleSurvey(
  pages: readonly (readonly [path: string, html: string])[],
  set: Snapshot,
  { headers, undelivered }: Required<Pick<Check, 'headers' | 'undelivered'>>,
): Pick<Knowledge, 'seen' | 'absent' | 'policies' | 'groups'> {
  return seenInPages(
    pages.map(([path, html]) => {
      const load = { page: pageAddress(path), device: 'desktop', consent: [], at: EXAMPLE_NOW } as const;
      const { parts } = planPage(set, { ...load, environment: 'live' });
      const bytes = undelivered.includes(path) ? new TextEncoder().encode(html) : insert(html, parts).page;
      return { path, bytes, headers: { ...UTF_8, ...headers }, parts };
    }),
    EXAMPLE_ADDRESS,
  );
}

/** The examples' site with one host, which gets its parts in a way. */
function exampleHost(delivery: DeliveryKey): Pick<Knowledge, 'hosts' | 'lineAddress'> {
  const { hostname } = new URL(EXAMPLE_ADDRESS);
  return {
    hosts: [{ host: hostname, environment: 'live', delivery }],
    lineAddress: 'https://lines.example/one/example.js',
  };
}

const EXAMPLE_ADDRESS = 'https://www.site.example';
const UTF_8 = { 'content-type': 'text/html; charset=utf-8' };

/** A file for the examples of a check; what is not named is plain. */
export function exampleFile(address: string, change: Partial<KnownFile> = {}): KnownFile {
  return {
    ...{ address, status: 200, bytes: 1_000, isRead: true },
    ...{ defines: [], cookies: [], stores: [], hosts: [] },
    ...change,
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
