import { Is } from './classes.js';
import { Ns } from './open-elements.js';
import { resetMode } from './reset-mode.js';
import { Mode, type Machine } from './state.js';
import { Tag } from './tags.js';

/** Deeper than this the general rules see to it. */
const DEEP = 10_000;

/**
 * The tags of tables as nearly all are written, processed while ordinary elements are passed over: each part stands
 * right in what it belongs to, so that nothing has to be looked for. Everything else is left to the rules
 * (`table.ts`), with which this must agree: what it does is what they do there.
 *
 * @returns whether the tag was processed
 */
export function passTable(m: Machine, tag: number, isEndTag: boolean): boolean {
  return isEndTag ? passEnd(m, tag) : passStart(m, tag);
}

function passStart(m: Machine, tag: number): boolean {
  const open = m.open;
  const current = open.currentHtmlTag();
  if (open.top > DEEP) return false;
  switch (tag) {
    case Tag.Td:
    case Tag.Th:
      if (m.mode !== Mode.InRow || current !== Tag.Tr) return false;
      open.pushTablePart(tag);
      m.formatting.pushMarker();
      m.mode = Mode.InCell;
      return true;
    case Tag.Tr:
      if (m.mode === Mode.InTable && current === Tag.Table) open.pushTablePart(Tag.Tbody);
      else if (m.mode !== Mode.InTableBody || !isTableBody(current)) return false;
      open.pushTablePart(tag);
      m.mode = Mode.InRow;
      return true;
    case Tag.Tbody:
    case Tag.Thead:
    case Tag.Tfoot:
      if (m.mode !== Mode.InTable || current !== Tag.Table) return false;
      open.pushTablePart(tag);
      m.mode = Mode.InTableBody;
      return true;
    case Tag.Table:
      if (m.mode !== Mode.InCell && m.mode !== Mode.InBody) return false;
      // A paragraph may have to be closed.
      if (open.isOpen(Tag.P)) return false;
      open.pushTablePart(tag);
      m.mode = Mode.InTable;
      return true;
    default:
      return false;
  }
}

function passEnd(m: Machine, tag: number): boolean {
  const open = m.open;
  switch (tag) {
    case Tag.Td:
    case Tag.Th:
      if (m.mode !== Mode.InCell || open.currentHtmlTag() !== tag) return false;
      open.popTablePart(tag);
      m.formatting.clearToMarker();
      m.mode = Mode.InRow;
      return true;
    case Tag.Tr:
      if (m.mode !== Mode.InRow || open.currentHtmlTag() !== tag) return false;
      open.popTablePart(tag);
      m.mode = Mode.InTableBody;
      return true;
    case Tag.Tbody:
    case Tag.Thead:
    case Tag.Tfoot:
      if (m.mode !== Mode.InTableBody || open.currentHtmlTag() !== tag) return false;
      open.popTablePart(tag);
      m.mode = Mode.InTable;
      return true;
    case Tag.Table:
      return passTableEnd(m);
    default:
      return false;
  }
}

function passTableEnd(m: Machine): boolean {
  const open = m.open;
  let table = open.top;
  if (m.mode === Mode.InTableBody && isTableBody(open.currentHtmlTag())) table--;
  else if (m.mode !== Mode.InTable) return false;
  if (table < 1 || open.tag(table) !== Tag.Table || open.ns(table) !== Ns.Html) return false;
  // What it stands in must leave the machine where ordinary tags are still of no account.
  if (open.ns(table - 1) !== Ns.Html || open.isOpen(Tag.Select)) return false;
  open.cut(table);
  if (open.currentIs(Is.Cell)) m.mode = Mode.InCell;
  else resetMode(m);
  return true;
}

function isTableBody(tag: number): boolean {
  return tag === Tag.Tbody || tag === Tag.Thead || tag === Tag.Tfoot;
}
