import { endOther } from './any-other-end-tag.js';
import { Is } from './classes.js';
import type { Machine } from './state.js';
import { Tag } from './tags.js';

const OUTER_LOOPS = 8;
const INNER_LOOPS = 3;

/** The adoption agency algorithm (HTML Standard 13.2.6.4.7), as far as it changes the two lists. */
export function closeFormatting(m: Machine, tag: number): void {
  const open = m.open;
  // Nearly always the current node is the newest entry, and both simply end.
  if (open.currentHtmlTag() === tag && m.formatting.dropNewest(open.uid(open.top))) {
    open.pop();
    return;
  }
  if (open.currentHtmlTag() === tag && m.formatting.indexOf(open.uid(open.top)) < 0) {
    open.pop();
    return;
  }
  for (let round = 0; round < OUTER_LOOPS; round++) {
    const entry = m.formatting.newest(tag);
    if (entry < 0) {
      endOther(m, tag);
      return;
    }
    const uid = m.formatting.uid(entry);
    const index = open.indexOf(uid);
    if (index < 0) {
      m.formatting.remove(entry);
      return;
    }
    if (!open.elementInScope(index)) return;
    const furthest = open.specialAbove(index);
    if (furthest < 0) {
      m.formatting.remove(entry);
      open.cut(index);
      return;
    }
    adopt(m, tag, uid, index, furthest);
    if (open.overflow) return;
  }
}

/** Steps 10 to 19 of the outer loop: the element at `index` is closed around the block at `furthest`. */
function adopt(m: Machine, tag: number, uid: number, index: number, furthest: number): void {
  const open = m.open;
  const list = m.formatting;
  // The bookmark: the new element's entry comes right after this element's.
  let after = uid;
  let moved = false;
  let round = 0;
  let block = furthest;
  for (let i = furthest - 1; i > index; i--) {
    const node = open.uid(i);
    const entry = list.indexOf(node);
    if (entry >= 0 && round < INNER_LOOPS) {
      const renewed = open.renew(i);
      list.replace(entry, renewed);
      if (!moved) after = renewed;
      moved = true;
    } else {
      if (entry >= 0) list.remove(entry);
      open.removeAt(i);
      block--;
    }
    round++;
  }
  const at = list.indexOf(after) + 1;
  const added = open.insertAbove(block, tag);
  if (m.selection.isOn) m.selection.copy(block + 1, index);
  list.copyTo(list.indexOf(uid), at, added);
  list.remove(list.indexOf(uid));
  open.removeAt(index);
  if (!m.selection.isOn) return;
  if (open.is(index - 1, Is.TableContext)) m.selection.foster(open.topmostBelow(index, Tag.Table));
  m.selection.adopted(index, block - 1, open.top);
}
