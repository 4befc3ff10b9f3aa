import { Is } from './classes.js';
import { Ns } from './open-elements.js';
import type { Machine } from './state.js';
import { MARKER } from './formatting.js';
import { Tag } from './tags.js';

/** "Reconstruct the active formatting elements" (HTML Standard 13.2.4.3). */
export function reconstruct(m: Machine): void {
  if (!m.formatting.needsReconstruction()) return;
  let first = m.formatting.size - 1;
  while (first > 0 && m.formatting.tag(first - 1) !== MARKER && !m.formatting.isOpen(first - 1)) first--;
  for (let i = first; i < m.formatting.size; i++) {
    if (m.selection.isOn) isCopy(m, i);
    m.formatting.replace(i, m.open.push(m.formatting.tag(i), Ns.Html, false));
  }
}

/** The next element is a copy of the one of an entry. */
function isCopy(m: Machine, entry: number): void {
  m.selection.isCopyOf(m.formatting.kept(entry));
  if (m.open.currentIs(Is.TableContext)) m.selection.foster(m.open.topmost(Tag.Table));
}
