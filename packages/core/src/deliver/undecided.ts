import { limitsWords, type Limits } from '../reach/index.js';
import type { Snapshot, SnapshotSnippet } from '../snapshot/index.js';
import type { AskedDimension, Delivery } from './delivery.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';
import { say } from '../texts/say.js';

/** A snippet whose reach asks what a way of delivery cannot ask anew for each page load. */
export interface Undecided {
  readonly snippet: string;
  readonly dimensions: readonly AskedDimension[];
  readonly message: string;
}

/** What a snippet's reach asks that a way decides once. Its environment is no question: pages are made for one. */
export function decidedOnce(
  { limits = {} }: Pick<SnapshotSnippet, 'limits'>,
  { decides }: Delivery,
): AskedDimension[] {
  return (Object.keys(decides) as AskedDimension[]).filter(
    (dimension) =>
      dimension !== 'environment' && decides[dimension] === 'once' && limits[dimension] !== undefined,
  );
}

/** The part of a snippet's limits that a way decides once, in words. */
export function decidedOnceWords(
  { limits = {} }: Pick<SnapshotSnippet, 'limits'>,
  dimensions: readonly AskedDimension[],
  site: Snapshot['site'],
): string {
  const asked = Object.fromEntries(dimensions.map((dimension) => [dimension, limits[dimension]])) as Limits;
  return limitsWords(asked, site).join(', ');
}

/** Snippets of a set that are on and whose reach a way of delivery decides once for all visitors. */
export function undecided({ snippets, site }: Snapshot, delivery: Delivery): Undecided[] {
  return snippets.flatMap((snippet) => {
    const dimensions = decidedOnce(snippet, delivery);
    if (snippet.state !== 'on' || dimensions.length === 0) return [];
    const { key, name } = snippet;
    const words = decidedOnceWords(snippet, dimensions, site);
    return [
      {
        snippet: key,
        dimensions,
        message: say(DELIVER_TEXTS.nameRunsWords, { name, words, onceWords: delivery.onceWords }),
      },
    ];
  });
}
