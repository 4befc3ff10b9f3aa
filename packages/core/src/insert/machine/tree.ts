import { endInBody, startInBody } from './body.js';
import { foreignEnd, foreignStart, isForeignStart } from './foreign.js';
import {
  endAfterHead,
  endBeforeHead,
  endBeforeHtml,
  endInHead,
  startAfterHead,
  startBeforeHead,
  startBeforeHtml,
  startInHead,
} from './head.js';
import { Ns } from './open-elements.js';
import { rulesOutFrameset } from './places.js';
import { Mode, type Machine } from './state.js';
import {
  endInCaption,
  endInCell,
  endInColumnGroup,
  endInRow,
  endInTable,
  endInTableBody,
  startInCaption,
  startInCell,
  startInColumnGroup,
  startInRow,
  startInTable,
  startInTableBody,
} from './table.js';
import { endInSelect, endInSelectInTable, startInSelect, startInSelectInTable } from './select.js';
import { endInFrameset, startInFrameset } from './frameset.js';
import { endInTemplate, startInTemplate } from './template.js';
import { Tag } from './tags.js';

/** Processes the current start tag (HTML Standard 13.2.6). */
export function startTag(m: Machine): void {
  if (m.open.currentNs() !== Ns.Html && isForeignStart(m)) foreignStart(m);
  else startTagByMode(m);
}

/** Processes the current end tag. */
export function endTag(m: Machine): void {
  if (m.open.currentNs() !== Ns.Html) foreignEnd(m);
  else endTagByMode(m);
}

export function startTagByMode(m: Machine): void {
  switch (m.mode) {
    case Mode.Initial:
    case Mode.BeforeHtml:
      startBeforeHtml(m);
      break;
    case Mode.BeforeHead:
      startBeforeHead(m);
      break;
    case Mode.InHead:
      startInHead(m);
      break;
    case Mode.AfterHead:
      startAfterHead(m);
      break;
    case Mode.InBody:
      startInBody(m);
      break;
    case Mode.InTable:
      startInTable(m);
      break;
    case Mode.InCaption:
      startInCaption(m);
      break;
    case Mode.InColumnGroup:
      startInColumnGroup(m);
      break;
    case Mode.InTableBody:
      startInTableBody(m);
      break;
    case Mode.InRow:
      startInRow(m);
      break;
    case Mode.InCell:
      startInCell(m);
      break;
    case Mode.InSelect:
      startInSelect(m);
      break;
    case Mode.InSelectInTable:
      startInSelectInTable(m);
      break;
    case Mode.InTemplate:
      startInTemplate(m);
      break;
    case Mode.AfterBody:
    case Mode.AfterAfterBody:
      if (m.tag !== Tag.Html) {
        m.mode = Mode.InBody;
        startInBody(m);
      }
      break;
    case Mode.InFrameset:
    case Mode.AfterFrameset:
    case Mode.AfterAfterFrameset:
      startInFrameset(m);
      break;
    default:
      break;
  }
}

export function endTagByMode(m: Machine): void {
  switch (m.mode) {
    case Mode.Initial:
    case Mode.BeforeHtml:
      endBeforeHtml(m);
      break;
    case Mode.BeforeHead:
      endBeforeHead(m);
      break;
    case Mode.InHead:
      endInHead(m);
      break;
    case Mode.AfterHead:
      endAfterHead(m);
      break;
    case Mode.InBody:
      endInBody(m);
      break;
    case Mode.InTable:
      endInTable(m);
      break;
    case Mode.InCaption:
      endInCaption(m);
      break;
    case Mode.InColumnGroup:
      endInColumnGroup(m);
      break;
    case Mode.InTableBody:
      endInTableBody(m);
      break;
    case Mode.InRow:
      endInRow(m);
      break;
    case Mode.InCell:
      endInCell(m);
      break;
    case Mode.InSelect:
      endInSelect(m);
      break;
    case Mode.InSelectInTable:
      endInSelectInTable(m);
      break;
    case Mode.InTemplate:
      endInTemplate(m);
      break;
    case Mode.AfterBody:
      if (m.tag === Tag.Html) m.mode = Mode.AfterAfterBody;
      else {
        m.mode = Mode.InBody;
        endInBody(m);
      }
      break;
    case Mode.AfterAfterBody:
      m.mode = Mode.InBody;
      endInBody(m);
      break;
    case Mode.InFrameset:
    case Mode.AfterFrameset:
      endInFrameset(m);
      break;
    default:
      break;
  }
}

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
