/** How much of what should be there is. */
export type CellState = 'all' | 'some' | 'missing' | 'none';

/** @param cell - undefined where nothing is asked for */
export function cellState(
  cell: { readonly expected: number; readonly present: number } | undefined,
): CellState {
  if (!cell || cell.expected === 0) return 'none';
  if (cell.present === cell.expected) return 'all';
  return cell.present === 0 ? 'missing' : 'some';
}

/** The same for one page. @param expected - keys of parts, as are those that are missing */
export function pageCellState(
  snippet: string,
  expected: readonly string[],
  missing: readonly string[],
): CellState {
  const isOf = (part: string): boolean => part.startsWith(`${snippet}/`);
  if (!expected.some(isOf)) return 'none';
  return missing.some(isOf) ? 'missing' : 'all';
}
