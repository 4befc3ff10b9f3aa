import type { DefaultTreeAdapterTypes as Tree } from 'parse5';
import { isElement, isText } from '../html/index.js';
import type { ItemPlace } from './types.js';

/** Elements that show nothing themselves, and whose texts are no texts of the page. */
const UNSEEN = new Set('head script style noscript template title meta link base'.split(' '));
const SEEN_EMPTY = new Set(
  'img input button select textarea video audio canvas svg hr object embed'.split(' '),
);

/** Where what a page shows begins and ends, in its text. */
export class VisibleBounds {
  readonly #first: number;
  readonly #last: number;

  constructor(document: Tree.Document) {
    let first = Infinity;
    let last = -1;
    const waiting: Tree.Node[] = [document];
    for (let node = waiting.pop(); node; node = waiting.pop()) {
      if (isElement(node) && UNSEEN.has(node.tagName)) continue;
      const at = node.sourceCodeLocation;
      const isSeen = isText(node)
        ? node.value.trim() !== ''
        : isElement(node) && SEEN_EMPTY.has(node.tagName) && !isUnseenImage(node);
      if (at && isSeen) {
        first = Math.min(first, at.startOffset);
        last = Math.max(last, at.endOffset);
      }
      if ('childNodes' in node) waiting.push(...node.childNodes);
    }
    this.#first = first;
    this.#last = last;
  }

  /** The place of what stands in the body at an offset. */
  placeOf(offset: number): Exclude<ItemPlace, 'head'> {
    if (offset <= this.#first) return this.#last < 0 ? 'body' : 'body-start';
    return offset >= this.#last ? 'body-end' : 'body';
  }
}

/** An image of one pixel, or one that is not shown. */
export function isUnseenImage({ tagName, attrs }: Tree.Element): boolean {
  if (tagName !== 'img') return false;
  return attrs.some(
    ({ name, value }) =>
      ((name === 'width' || name === 'height') && /^\s*[01](?:px)?\s*$/.test(value)) ||
      (name === 'style' && /display\s*:\s*none|visibility\s*:\s*hidden/i.test(value)) ||
      name === 'hidden',
  );
}
