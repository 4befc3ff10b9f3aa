import { Is } from './classes.js';
import { Mode, type Machine } from './state.js';
import { Tag } from './tags.js';

/** "Reset the insertion mode appropriately" (HTML Standard 13.2.4.1). */
export function resetMode(m: Machine): void {
  const index = m.open.topmostWith(Is.SelectsMode);
  m.mode = index < 0 ? Mode.InBody : modeFor(m, index, m.open.tag(index));
}

function modeFor(m: Machine, index: number, tag: number): number {
  switch (tag) {
    case Tag.Tr:
      return Mode.InRow;
    case Tag.Tbody:
    case Tag.Thead:
    case Tag.Tfoot:
      return Mode.InTableBody;
    case Tag.Caption:
      return Mode.InCaption;
    case Tag.Colgroup:
      return Mode.InColumnGroup;
    case Tag.Table:
      return Mode.InTable;
    case Tag.Td:
    case Tag.Th:
      return Mode.InCell;
    case Tag.Template:
      return m.templateModes.get(m.templateDepth - 1);
    case Tag.Head:
      return Mode.InHead;
    case Tag.Frameset:
      return Mode.InFrameset;
    case Tag.Html:
      return m.hasHead ? Mode.AfterHead : Mode.BeforeHead;
    case Tag.Select:
      return isInTable(m, index) ? Mode.InSelectInTable : Mode.InSelect;
    default:
      return Mode.InBody;
  }
}

/** Whether a table, with no template above it, is open around the select. */
function isInTable(m: Machine, select: number): boolean {
  for (let i = select - 1; i > 0; i--) {
    if (m.open.ns(i) !== 0) continue;
    if (m.open.tag(i) === Tag.Template) return false;
    if (m.open.tag(i) === Tag.Table) return true;
  }
  return false;
}
