const NEWLINE = 0x0a;

/** How many lines end in these bytes. */
export function countLines(bytes: Uint8Array): number {
  let lines = 0;
  for (let at = bytes.indexOf(NEWLINE); at >= 0; at = bytes.indexOf(NEWLINE, at + 1)) lines++;
  return lines;
}
