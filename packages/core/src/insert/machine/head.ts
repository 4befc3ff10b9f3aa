import { startInBody, endInBody } from './body.js';
import { endTemplate, headElement } from './head-elements.js';
import { tagPosition } from './insert-element.js';
import { beginBody, beginFrameset, beginHead, endHead, implyBody, implyHead } from './places.js';
import { Mode, Reprocess, type Machine } from './state.js';
import { Tag } from './tags.js';

/** The insertion modes before the body (HTML Standard 13.2.6.4.1–4.6). */

export function startBeforeHtml(m: Machine): void {
  m.selection.isTag = m.tag === Tag.Html;
  m.open.push(Tag.Html, 0, false);
  m.mode = Mode.BeforeHead;
  if (m.tag !== Tag.Html) m.reprocess = Reprocess.ByMode;
}

/** End tags that imply what is missing; others are ignored. */
function implies(tag: number): boolean {
  return tag === Tag.Body || tag === Tag.Html || tag === Tag.Br;
}

export function endBeforeHtml(m: Machine): void {
  // In the initial mode any end tag ends it; nothing else depends on that.
  if (!implies(m.tag) && m.tag !== Tag.Head) {
    m.mode = Mode.BeforeHtml;
    return;
  }
  m.open.push(Tag.Html, 0, false);
  m.mode = Mode.BeforeHead;
  m.reprocess = Reprocess.ByMode;
}

export function startBeforeHead(m: Machine): void {
  if (m.tag === Tag.Html) return;
  if (m.tag === Tag.Head) {
    beginHead(m, m.base + m.tagEnd);
    return;
  }
  implyHead(m, tagPosition(m));
  m.reprocess = Reprocess.ByMode;
}

export function endBeforeHead(m: Machine): void {
  if (!implies(m.tag) && m.tag !== Tag.Head) return;
  implyHead(m, tagPosition(m));
  m.reprocess = Reprocess.ByMode;
}

export function startInHead(m: Machine): void {
  if (m.tag === Tag.Html || m.tag === Tag.Head) return;
  if (headElement(m)) return;
  endHead(m, tagPosition(m), false);
  m.reprocess = Reprocess.ByMode;
}

export function endInHead(m: Machine): void {
  if (m.tag === Tag.Head) {
    endHead(m, tagPosition(m), true);
    return;
  }
  if (m.tag === Tag.Template) {
    endTemplate(m);
    return;
  }
  if (!implies(m.tag)) return;
  endHead(m, tagPosition(m), false);
  m.reprocess = Reprocess.ByMode;
}

export function startAfterHead(m: Machine): void {
  switch (m.tag) {
    case Tag.Html:
    case Tag.Head:
      return;
    case Tag.Body:
      beginBody(m, m.base + m.tagEnd);
      return;
    case Tag.Frameset:
      beginFrameset(m, tagPosition(m));
      return;
    case Tag.Noscript:
      break;
    default:
      // Late elements of the head are moved into it; they do not begin the body.
      if (headElement(m)) return;
      break;
  }
  implyBody(m, tagPosition(m));
  startInBody(m);
}

export function endAfterHead(m: Machine): void {
  if (m.tag === Tag.Template) {
    endTemplate(m);
    return;
  }
  if (!implies(m.tag)) return;
  implyBody(m, tagPosition(m));
  endInBody(m);
}
