import { isHiddenInput } from './attributes.js';
import { endInBody, startInBody } from './body.js';
import { Is } from './classes.js';
import { endTemplate, headElement } from './head-elements.js';
import { Ns } from './open-elements.js';
import { resetMode } from './reset-mode.js';
import { Mode, Reprocess, type Machine } from './state.js';
import { Tag } from './tags.js';
import { appendElement, insertElement } from './insert-element.js';

/** The insertion modes of tables (HTML Standard 13.2.6.4.9–4.15). Foster parenting moves nodes, not open elements. */

export function startInTable(m: Machine): void {
  switch (m.tag) {
    case Tag.Td:
    case Tag.Th:
    case Tag.Tr:
      clearTo(m, Tag.Table, Tag.Table, Tag.Table);
      m.open.push(Tag.Tbody, Ns.Html, false);
      m.mode = Mode.InTableBody;
      startInTableBody(m);
      return;
    case Tag.Style:
    case Tag.Script:
    case Tag.Template:
      headElement(m);
      return;
    case Tag.Col:
      clearTo(m, Tag.Table, Tag.Table, Tag.Table);
      m.open.push(Tag.Colgroup, Ns.Html, false);
      m.mode = Mode.InColumnGroup;
      appendElement(m);
      return;
    case Tag.Form:
      // It is closed at once.
      if (m.form === 0 && m.open.templates === 0) {
        m.form = insertElement(m);
        m.open.pop();
      }
      return;
    case Tag.Table:
      if (!m.open.inTableScope(Tag.Table)) return;
      m.open.popUntil(Tag.Table);
      resetMode(m);
      m.reprocess = Reprocess.AsToken;
      return;
    case Tag.Tbody:
    case Tag.Tfoot:
    case Tag.Thead:
      clearTo(m, Tag.Table, Tag.Table, Tag.Table);
      insertElement(m);
      m.mode = Mode.InTableBody;
      return;
    case Tag.Input:
      if (isHiddenInput(m)) appendElement(m);
      else startFostered(m);
      return;
    case Tag.Caption:
      clearTo(m, Tag.Table, Tag.Table, Tag.Table);
      m.formatting.pushMarker();
      insertElement(m);
      m.mode = Mode.InCaption;
      return;
    case Tag.Colgroup:
      clearTo(m, Tag.Table, Tag.Table, Tag.Table);
      insertElement(m);
      m.mode = Mode.InColumnGroup;
      return;
    default:
      startFostered(m);
  }
}

/** "Anything else" in a table. */
function startFostered(m: Machine): void {
  m.isFostering = true;
  startInBody(m);
}

export function endInTable(m: Machine): void {
  switch (m.tag) {
    case Tag.Table:
      if (!m.open.inTableScope(Tag.Table)) return;
      m.open.popUntil(Tag.Table);
      resetMode(m);
      return;
    case Tag.Template:
      endTemplate(m);
      return;
    case Tag.Body:
    case Tag.Caption:
    case Tag.Col:
    case Tag.Colgroup:
    case Tag.Html:
    case Tag.Tbody:
    case Tag.Td:
    case Tag.Tfoot:
    case Tag.Th:
    case Tag.Thead:
    case Tag.Tr:
      return;
    default:
      endInBody(m);
  }
}

/** Start tags that end a caption or a cell. */
function isTablePart(tag: number): boolean {
  return (
    tag === Tag.Caption ||
    tag === Tag.Col ||
    tag === Tag.Colgroup ||
    tag === Tag.Tbody ||
    tag === Tag.Td ||
    tag === Tag.Tfoot ||
    tag === Tag.Th ||
    tag === Tag.Thead ||
    tag === Tag.Tr
  );
}

export function startInCaption(m: Machine): void {
  if (!isTablePart(m.tag)) {
    startInBody(m);
    return;
  }
  if (closeCaption(m)) startInTable(m);
}

export function endInCaption(m: Machine): void {
  if (m.tag === Tag.Caption) closeCaption(m);
  else if (m.tag === Tag.Table) {
    if (closeCaption(m)) endInTable(m);
  } else if (m.tag !== Tag.Body && m.tag !== Tag.Html && !isTablePart(m.tag)) endInBody(m);
}

function closeCaption(m: Machine): boolean {
  if (!m.open.inTableScope(Tag.Caption)) return false;
  m.open.impliedEnds(Is.Implied, -1);
  m.open.popUntil(Tag.Caption);
  m.formatting.clearToMarker();
  m.mode = Mode.InTable;
  return true;
}

export function startInColumnGroup(m: Machine): void {
  if (m.tag === Tag.Html) return;
  if (m.tag === Tag.Col) appendElement(m);
  else if (m.tag === Tag.Template) headElement(m);
  else if (leaveColumnGroup(m)) m.reprocess = Reprocess.ByMode;
}

export function endInColumnGroup(m: Machine): void {
  if (m.tag === Tag.Colgroup) leaveColumnGroup(m);
  else if (m.tag === Tag.Template) endTemplate(m);
  else if (m.tag !== Tag.Col && leaveColumnGroup(m)) m.reprocess = Reprocess.ByMode;
}

/** "Anything else" in a column group. @returns whether it was left */
export function leaveColumnGroup(m: Machine): boolean {
  if (m.open.currentHtmlTag() !== Tag.Colgroup) return false;
  m.open.pop();
  m.mode = Mode.InTable;
  return true;
}

export function startInTableBody(m: Machine): void {
  switch (m.tag) {
    case Tag.Tr:
      clearToTableBody(m);
      insertElement(m);
      m.mode = Mode.InRow;
      return;
    case Tag.Th:
    case Tag.Td:
      clearToTableBody(m);
      m.open.push(Tag.Tr, Ns.Html, false);
      m.mode = Mode.InRow;
      startInRow(m);
      return;
    case Tag.Caption:
    case Tag.Col:
    case Tag.Colgroup:
    case Tag.Tbody:
    case Tag.Tfoot:
    case Tag.Thead:
      if (leaveTableBody(m)) startInTable(m);
      return;
    default:
      startInTable(m);
  }
}

export function endInTableBody(m: Machine): void {
  switch (m.tag) {
    case Tag.Tbody:
    case Tag.Tfoot:
    case Tag.Thead:
      if (!m.open.inTableScope(m.tag)) return;
      clearToTableBody(m);
      m.open.pop();
      m.mode = Mode.InTable;
      return;
    case Tag.Table:
      if (leaveTableBody(m)) endInTable(m);
      return;
    default:
      if (!isTablePart(m.tag) && m.tag !== Tag.Body && m.tag !== Tag.Html) endInTable(m);
  }
}

function leaveTableBody(m: Machine): boolean {
  const inScope =
    m.open.inTableScope(Tag.Tbody) || m.open.inTableScope(Tag.Thead) || m.open.inTableScope(Tag.Tfoot);
  if (!inScope) return false;
  clearToTableBody(m);
  m.open.pop();
  m.mode = Mode.InTable;
  return true;
}

export function startInRow(m: Machine): void {
  if (m.tag === Tag.Th || m.tag === Tag.Td) {
    clearTo(m, Tag.Tr, Tag.Tr, Tag.Tr);
    insertElement(m);
    m.mode = Mode.InCell;
    m.formatting.pushMarker();
  } else if (isTablePart(m.tag)) {
    if (leaveRow(m)) startInTableBody(m);
  } else startInTable(m);
}

export function endInRow(m: Machine): void {
  switch (m.tag) {
    case Tag.Tr:
      leaveRow(m);
      return;
    case Tag.Table:
      if (leaveRow(m)) endInTableBody(m);
      return;
    case Tag.Tbody:
    case Tag.Tfoot:
    case Tag.Thead:
      if (m.open.inTableScope(m.tag) && leaveRow(m)) endInTableBody(m);
      return;
    default:
      if (!isTablePart(m.tag) && m.tag !== Tag.Body && m.tag !== Tag.Html) endInTable(m);
  }
}

function leaveRow(m: Machine): boolean {
  if (!m.open.inTableScope(Tag.Tr)) return false;
  clearTo(m, Tag.Tr, Tag.Tr, Tag.Tr);
  m.open.pop();
  m.mode = Mode.InTableBody;
  return true;
}

export function startInCell(m: Machine): void {
  if (!isTablePart(m.tag)) {
    startInBody(m);
    return;
  }
  if (closeCell(m)) startInRow(m);
}

export function endInCell(m: Machine): void {
  switch (m.tag) {
    case Tag.Td:
    case Tag.Th:
      // Nearly always the cell is the current node.
      if (m.open.currentHtmlTag() === m.tag) {
        m.open.pop();
        m.formatting.clearToMarker();
        m.mode = Mode.InRow;
        return;
      }
      if (!m.open.inTableScope(m.tag)) return;
      m.open.impliedEnds(Is.Implied, -1);
      m.open.popUntil(m.tag);
      m.formatting.clearToMarker();
      m.mode = Mode.InRow;
      return;
    case Tag.Table:
    case Tag.Tbody:
    case Tag.Tfoot:
    case Tag.Thead:
    case Tag.Tr:
      if (m.open.inTableScope(m.tag) && closeCell(m)) endInRow(m);
      return;
    case Tag.Body:
    case Tag.Caption:
    case Tag.Col:
    case Tag.Colgroup:
    case Tag.Html:
      return;
    default:
      endInBody(m);
  }
}

/** "Close the cell". */
function closeCell(m: Machine): boolean {
  if (!m.open.inTableScope(Tag.Td) && !m.open.inTableScope(Tag.Th)) return false;
  m.open.impliedEnds(Is.Implied, -1);
  const td = m.open.topmost(Tag.Td);
  const th = m.open.topmost(Tag.Th);
  m.open.cut(td > th ? td : th);
  m.formatting.clearToMarker();
  m.mode = Mode.InRow;
  return true;
}

function clearToTableBody(m: Machine): void {
  clearTo(m, Tag.Tbody, Tag.Tfoot, Tag.Thead);
}

/** "Clear the stack back to a table, table body or table row context". */
function clearTo(m: Machine, a: number, b: number, c: number): void {
  for (;;) {
    const tag = m.open.currentHtmlTag();
    if (tag === a || tag === b || tag === c || tag === Tag.Template || tag === Tag.Html) return;
    m.open.pop();
  }
}
