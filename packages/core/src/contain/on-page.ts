import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { insert, isAnchor, type Placement } from '../insert/index.js';
import type { PageSkeleton } from './skeleton.js';
import { tooMuchOf } from '../bounds/too-much.js';
import { assertShallow, isWithInsertion } from './tree.js';

/** What becomes of a part on one of the site's own pages. */
export type OnPage =
  | { readonly kind: 'fits' }
  /** There is no place for it, so visitors of that page do not get it. */
  | { readonly kind: 'left-out'; readonly message: string }
  /** It would change nodes of that page. */
  | { readonly kind: 'changes-page' }
  /** Selectors look at more of a page than a skeleton has. */
  | { readonly kind: 'unknown' };

const parsed = new WeakMap<PageSkeleton, Tree.Document>();

/** Puts a part into the skeleton of a page as the gateway would, and compares the two trees. */
export function onPage(skeleton: PageSkeleton, code: string, placement: Placement): OnPage {
  if (isAnchor(placement) && 'selector' in placement) return { kind: 'unknown' };
  const { page, outcomes } = insert(skeleton.html, [{ key: 'part', placement, code }]);
  const [outcome] = outcomes;
  if (!outcome!.inserted) return { kind: 'left-out', message: outcome!.message };
  let without = parsed.get(skeleton);
  if (!without) parsed.set(skeleton, (without = parse(skeleton.html)));
  const withCode = parse(new TextDecoder().decode(page));
  try {
    assertShallow(withCode);
  } catch (error) {
    if (tooMuchOf(error) === undefined) throw error;
    // Told of the code itself, where it is tried without the page.
    return { kind: 'fits' };
  }
  return { kind: isWithInsertion(without, withCode) ? 'fits' : 'changes-page' };
}
