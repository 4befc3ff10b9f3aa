import { pageSkeleton } from '../contain/index.js';
import { placementKey } from '../insert/index.js';
import type { Snapshot } from '../release/index.js';
import type { Knowledge } from './checked-set.js';
import type { Check, ExampleSnippet } from './types.js';

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
    site: { key: 'example', name: 'Example', timeZone: 'UTC' },
    snippets: snippets.map(({ name, parts, state = 'on', include = [], exclude = [], needs }) => ({
      key: name.toLowerCase().replace(/[^a-z0-9]+/g, '-'),
      name,
      purpose: '',
      provider: '',
      note: '',
      state,
      pages: { include, exclude },
      ...(needs ? { needs } : {}),
      parts: parts.map((part) => ({ ...part, rank: next(placementKey(part.placement)) })),
    })),
  };
}

/** What is known of the site of a check's examples. */
export function exampleKnowledge({ pages = {} }: Pick<Check, 'pages'>): Knowledge {
  const entries = Object.entries(pages);
  return {
    paths: entries.map(([path]) => path),
    skeletons: entries.map(([path, html]) => pageSkeleton(path, html)),
  };
}
