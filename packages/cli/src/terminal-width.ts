/** Where neither a terminal nor COLUMNS says how wide it is. */
const DEFAULT_WIDTH = 100;

/** Columns of the terminal; COLUMNS goes before what the terminal says (POSIX, 8.3). */
export function terminalWidth(): number {
  return asked() ?? (process.stdout.columns || DEFAULT_WIDTH);
}

/** Whether somebody reads it in so many columns; a pipe has none. */
export function isWidthKnown(): boolean {
  return asked() !== undefined || process.stdout.isTTY;
}

function asked(): number | undefined {
  const columns = Number(process.env['COLUMNS']);
  return Number.isInteger(columns) && columns > 0 ? columns : undefined;
}
