import { limitsWords, type Limits } from '../reach/index.js';
import type { Snapshot } from '../snapshot/index.js';
import type { AskedDimension, Delivery } from './delivery.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';
import { say } from '../texts/say.js';

/** A snippet whose reach asks what a way of delivery cannot ask anew for each page load. */
export interface Undecided {
  readonly snippet: string;
  readonly dimensions: readonly AskedDimension[];
  readonly message: string;
}

/**
 * Snippets of a set that are on and whose reach a way of delivery decides once for all visitors. Their environment is no
 * question: pages are made for one.
 */
export function undecided({ snippets, site }: Snapshot, delivery: Delivery): Undecided[] {
  return snippets.flatMap(({ key, name, state, limits = {} }) => {
    const dimensions = (Object.keys(delivery.decides) as AskedDimension[]).filter(
      (dimension) =>
        dimension !== 'environment' &&
        delivery.decides[dimension] === 'once' &&
        limits[dimension] !== undefined,
    );
    if (state !== 'on' || dimensions.length === 0) return [];
    const asked = Object.fromEntries(dimensions.map((dimension) => [dimension, limits[dimension]])) as Limits;
    const words = limitsWords(asked, site).join(', ');
    return [
      {
        snippet: key,
        dimensions,
        message: say(DELIVER_TEXTS.nameRunsWords, { name, words, onceWords: delivery.onceWords }),
      },
    ];
  });
}
