import { headElement, endTemplate } from './head-elements.js';
import { resetMode } from './reset-mode.js';
import { Reprocess, type Machine } from './state.js';
import { Tag } from './tags.js';
import { appendElement, insertElement } from './insert-element.js';

/**
 * "In select" and "in select in table". The Standard has since dropped these modes for customizable selects; browsers
 * and parsers of both kinds are in use, and this is the stricter reading: it opens less inside a select.
 */
export function startInSelect(m: Machine): void {
  switch (m.tag) {
    case Tag.Option:
      popIf(m, Tag.Option);
      insertElement(m);
      break;
    case Tag.Optgroup:
      popIf(m, Tag.Option);
      popIf(m, Tag.Optgroup);
      insertElement(m);
      break;
    case Tag.Hr:
      popIf(m, Tag.Option);
      popIf(m, Tag.Optgroup);
      appendElement(m);
      break;
    case Tag.Input:
    case Tag.Keygen:
    case Tag.Textarea:
    case Tag.Select:
      if (!m.open.selectInScope()) break;
      leaveSelect(m);
      if (m.tag !== Tag.Select) m.reprocess = Reprocess.AsToken;
      break;
    case Tag.Script:
    case Tag.Template:
      headElement(m);
      break;
    default:
      break;
  }
}

export function endInSelect(m: Machine): void {
  switch (m.tag) {
    case Tag.Optgroup:
      if (
        m.open.currentHtmlTag() === Tag.Option &&
        m.open.tag(m.open.top - 1) === Tag.Optgroup &&
        m.open.ns(m.open.top - 1) === 0
      )
        m.open.pop();
      popIf(m, Tag.Optgroup);
      break;
    case Tag.Option:
      popIf(m, Tag.Option);
      break;
    case Tag.Select:
      if (m.open.selectInScope()) leaveSelect(m);
      break;
    case Tag.Template:
      endTemplate(m);
      break;
    default:
      break;
  }
}

export function startInSelectInTable(m: Machine): void {
  if (!isTableTag(m.tag)) {
    startInSelect(m);
    return;
  }
  leaveSelect(m);
  m.reprocess = Reprocess.AsToken;
}

export function endInSelectInTable(m: Machine): void {
  if (!isTableTag(m.tag)) {
    endInSelect(m);
    return;
  }
  if (!m.open.inTableScope(m.tag)) return;
  leaveSelect(m);
  m.reprocess = Reprocess.AsToken;
}

function leaveSelect(m: Machine): void {
  m.open.popUntil(Tag.Select);
  resetMode(m);
}

function popIf(m: Machine, tag: number): void {
  if (m.open.currentHtmlTag() === tag) m.open.pop();
}

function isTableTag(tag: number): boolean {
  return (
    tag === Tag.Caption ||
    tag === Tag.Table ||
    tag === Tag.Tbody ||
    tag === Tag.Tfoot ||
    tag === Tag.Thead ||
    tag === Tag.Tr ||
    tag === Tag.Td ||
    tag === Tag.Th
  );
}
