import { headElement } from './head-elements.js';
import { Mode, type Machine } from './state.js';
import { Tag } from './tags.js';
import { insertElement } from './insert-element.js';

/** "In frameset" and what comes after it (HTML Standard 13.2.6.4.20, .21 and .23). */
export function startInFrameset(m: Machine): void {
  if (m.tag === Tag.Frameset && m.mode === Mode.InFrameset) insertElement(m);
  else if (m.tag === Tag.Noframes) headElement(m);
}

export function endInFrameset(m: Machine): void {
  if (m.mode === Mode.AfterFrameset) {
    if (m.tag === Tag.Html) m.mode = Mode.AfterAfterFrameset;
    return;
  }
  if (m.tag !== Tag.Frameset || m.open.top === 0) return;
  m.open.pop();
  if (m.open.currentHtmlTag() !== Tag.Frameset) m.mode = Mode.AfterFrameset;
}
