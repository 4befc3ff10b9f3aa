import { Ns } from './open-elements.js';
import type { Machine } from './state.js';
import { MARKER } from './formatting.js';

/** "Reconstruct the active formatting elements" (HTML Standard 13.2.4.3). */
export function reconstruct(m: Machine): void {
  if (!m.formatting.needsReconstruction()) return;
  let first = m.formatting.size - 1;
  while (first > 0 && m.formatting.tag(first - 1) !== MARKER && !m.formatting.isOpen(first - 1)) first--;
  for (let i = first; i < m.formatting.size; i++)
    m.formatting.replace(i, m.open.push(m.formatting.tag(i), Ns.Html, false));
}
