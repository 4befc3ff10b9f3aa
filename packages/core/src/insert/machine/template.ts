import { startInBody } from './body.js';
import { endTemplate, headElement } from './head-elements.js';
import { Mode, type Machine } from './state.js';
import { startInColumnGroup, startInRow, startInTable, startInTableBody } from './table.js';
import { Tag } from './tags.js';

/** "In template" (HTML Standard 13.2.6.4.22). */
export function startInTemplate(m: Machine): void {
  switch (m.tag) {
    case Tag.Noscript:
      break;
    case Tag.Caption:
    case Tag.Colgroup:
    case Tag.Tbody:
    case Tag.Tfoot:
    case Tag.Thead:
      become(m, Mode.InTable);
      startInTable(m);
      return;
    case Tag.Col:
      become(m, Mode.InColumnGroup);
      startInColumnGroup(m);
      return;
    case Tag.Tr:
      become(m, Mode.InTableBody);
      startInTableBody(m);
      return;
    case Tag.Td:
    case Tag.Th:
      become(m, Mode.InRow);
      startInRow(m);
      return;
    default:
      if (headElement(m)) return;
      break;
  }
  become(m, Mode.InBody);
  startInBody(m);
}

export function endInTemplate(m: Machine): void {
  if (m.tag === Tag.Template) endTemplate(m);
}

function become(m: Machine, mode: number): void {
  m.templateModes.set(m.templateDepth - 1, mode);
  m.mode = mode;
}
