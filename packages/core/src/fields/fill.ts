import type { Range } from '../facts/index.js';
import type { EnvironmentName } from '../reach/index.js';
import { writtenValue } from './escape.js';
import type { Field } from './types.js';
import { fieldUses } from './uses.js';
import { fieldValue, fieldValueProblem } from './values.js';

/** A field's place in code, and what is written there. */
interface Filling {
  readonly start: number;
  readonly end: number;
  readonly written: string;
}

/** What is written for the fields of a piece of code, in order; a field that cannot be filled in stays as it is. */
function fillings(code: string, fields: readonly Field[], environment: EnvironmentName): Filling[] {
  // Most code has none; looking for the sign is all that it costs.
  if (!code.includes('@{')) return [];
  return fieldUses(code).map(({ name, start, end, place }) => {
    const field = fields.find((candidate) => candidate.name === name);
    const value = field && fieldValue(field, environment);
    const isFit = field && value !== undefined && fieldValueProblem(field.type, value) === undefined;
    const written = isFit ? writtenValue(value, field.type, place) : undefined;
    return { start, end, written: written ?? code.slice(start, end) };
  });
}

/** Code with its fields' values in place of them. A field that cannot be filled in stays as it is written. */
export function filledCode(code: string, fields: readonly Field[], environment: EnvironmentName): string {
  let filled = '';
  let at = 0;
  for (const { start, end, written } of fillings(code, fields, environment)) {
    filled += code.slice(at, start) + written;
    at = end;
  }
  return filled + code.slice(at);
}

/** Where a range of the filled-in code stands in the code as it is written; a field counts as a whole. */
export function sourceRange(
  code: string,
  fields: readonly Field[],
  environment: EnvironmentName,
  range: Range,
): Range {
  let { start, end } = range;
  let shift = 0;
  for (const filling of fillings(code, fields, environment)) {
    const from = filling.start + shift;
    const to = from + filling.written.length;
    const more = filling.end - filling.start - filling.written.length;
    if (range.start >= to) start += more;
    else if (range.start > from) start = filling.start;
    if (range.end >= to) end += more;
    else if (range.end > from) end = filling.end;
    shift -= more;
  }
  return { start, end };
}
