import { Is } from './classes.js';
import { Ns } from './open-elements.js';
import { rulesOutFrameset } from './places.js';
import type { Machine } from './state.js';
import { Tag } from './tags.js';

/** Where the current tag begins, in the page. */
export function tagPosition(m: Machine): number {
  return m.base + m.tagStart;
}

/** Opens an HTML element for the current start tag. @returns its number */
export function insertElement(m: Machine): number {
  if (m.selection.isOn) isOfTag(m);
  return m.open.push(m.tag, Ns.Html, false);
}

/** The current start tag is that of an element without content. */
export function appendElement(m: Machine): void {
  m.appended = true;
  if (!m.selection.isOn) return;
  isOfTag(m);
  m.selection.append(m.open.top, m.tag, m.open.templates > 0);
}

/** An end tag makes an element that is empty. */
export function appendImplied(m: Machine, tag: number): void {
  if (m.open.currentIs(Is.TableContext)) m.selection.foster(m.open.topmost(Tag.Table));
  m.selection.append(m.open.top, tag, m.open.templates > 0);
}

/** The next element is that of the current start tag. */
export function isOfTag(m: Machine): void {
  m.selection.isTag = true;
  if (!m.isFostering || !m.open.currentIs(Is.TableContext)) return;
  m.fostered = true;
  m.selection.foster(m.open.topmost(Tag.Table));
}

/** The frameset-ok flag becomes "not ok" by the current tag. */
export function notFrameset(m: Machine): void {
  if (m.framesetOk) rulesOutFrameset(m, tagPosition(m));
}
