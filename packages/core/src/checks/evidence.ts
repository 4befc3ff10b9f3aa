import { lineAndColumn, type Range } from '../facts/index.js';
import type { Spot, Subject } from './finding.js';
import type { Params } from '../texts/index.js';
import type { ReadPart } from './read-part.js';

const SHOWN = 120;
/** So much of the line before the place is shown where the line is too long. */
const LEAD = 30;

/** Evidence at a range of a part's code. */
export function evidence<const Role extends string>(
  part: ReadPart,
  range: Range,
  role: Role,
  params?: Params,
): Spot<Role> {
  return {
    part: part.key,
    range,
    text: lineAround(part.code, range),
    ...lineAndColumn(part.code, range.start),
    role,
    ...(params ? { params } : {}),
  };
}

/** The line in which a range begins, up to the range's end where that is further on. */
function lineAround(code: string, { start, end }: Range): string {
  const lineStart = code.lastIndexOf('\n', start - 1) + 1;
  const lineEnd = code.indexOf('\n', Math.max(start, end - 1));
  const line = code.slice(lineStart, lineEnd < 0 ? code.length : lineEnd).trimEnd();
  const from = line.length <= SHOWN ? 0 : Math.max(0, start - lineStart - LEAD);
  const shown = line.slice(from, from + SHOWN).trim();
  return `${from > 0 ? '…' : ''}${shown}${from + SHOWN < line.length ? '…' : ''}`;
}

export function subject(part: ReadPart): Subject {
  return { snippet: part.snippet.key, name: part.snippet.name, part: part.key };
}
