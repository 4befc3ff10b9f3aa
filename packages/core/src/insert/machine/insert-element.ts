import { Ns } from './open-elements.js';
import { rulesOutFrameset } from './places.js';
import type { Machine } from './state.js';

/** Where the current tag begins, in the page. */
export function tagPosition(m: Machine): number {
  return m.base + m.tagStart;
}

/** Opens an HTML element for the current start tag. @returns its number */
export function insertElement(m: Machine): number {
  m.created = true;
  return m.open.push(m.tag, Ns.Html, false);
}

/** The current start tag is that of an element without content. */
export function appendElement(m: Machine): void {
  m.created = true;
}

/** The frameset-ok flag becomes "not ok" by the current tag. */
export function notFrameset(m: Machine): void {
  if (m.framesetOk) rulesOutFrameset(m, tagPosition(m));
}
