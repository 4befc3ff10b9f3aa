import { Is } from './classes.js';
import type { Machine } from './state.js';

/** "Any other end tag" in the body (HTML Standard 13.2.6.4.7). */
export function endOther(m: Machine, tag: number): void {
  const index = m.open.topmost(tag);
  if (index <= 0 || m.open.specialAbove(index) >= 0) return;
  m.open.impliedEnds(Is.Implied, tag);
  if (m.open.top >= index) m.open.cut(index);
}
