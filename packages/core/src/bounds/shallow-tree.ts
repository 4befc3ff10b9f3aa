import { defaultTreeAdapter } from 'parse5';
import { MAX_MARKUP_DEPTH, TooMuchError } from './too-much.js';

type Adapter = typeof defaultTreeAdapter;

/** Elements that a parser opens by itself around a page or a piece of one. */
const OPENED_BY_ITSELF = 8;

/**
 * A tree that stops growing where more elements are open than anybody may follow: for the parsing of one text. What is
 * nested without end would otherwise be built whole, in seconds, only to be refused.
 *
 * The depth of the finished tree is still for whoever walks it to bound: the adoption agency nests without opening.
 *
 * @returns an adapter that throws TooMuchError out of the parser
 */
export function shallowTree(base: Adapter = defaultTreeAdapter): Adapter {
  let open = 0;
  return {
    ...base,
    onItemPush() {
      if (++open > MAX_MARKUP_DEPTH + OPENED_BY_ITSELF) throw new TooMuchError('nesting');
    },
    onItemPop() {
      open--;
    },
  };
}
