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
import { Mode, Reprocess, type Machine } from './state.js';
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

/** Processes the current start tag (HTML Standard 13.2.6), again as long as the rules say "reprocess the token". */
export function startTag(m: Machine): void {
  let how: number = Reprocess.AsToken;
  do {
    m.reprocess = Reprocess.No;
    if (how === Reprocess.AsToken && m.open.currentNs() !== Ns.Html && isForeignStart(m)) foreignStart(m);
    else startTagByMode(m);
    how = m.reprocess;
  } while (how !== Reprocess.No);
}

/** Processes the current end tag. */
export function endTag(m: Machine): void {
  let how: number = Reprocess.AsToken;
  do {
    m.reprocess = Reprocess.No;
    if (how === Reprocess.AsToken && m.open.currentNs() !== Ns.Html) foreignEnd(m);
    else endTagByMode(m);
    how = m.reprocess;
  } while (how !== Reprocess.No);
}

function startTagByMode(m: Machine): void {
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

function endTagByMode(m: Machine): void {
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
