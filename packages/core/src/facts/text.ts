/** Line and column of an offset, both from 1. Lines end at LF, CR LF or CR. */
export function lineAndColumn(text: string, offset: number): { line: number; column: number } {
  let line = 1;
  let start = 0;
  for (let i = 0; i < offset; i++) {
    const code = text.charCodeAt(i);
    if (code !== 0x0a && (code !== 0x0d || text.charCodeAt(i + 1) === 0x0a)) continue;
    line++;
    start = i + 1;
  }
  return { line, column: offset - start + 1 };
}

/** Length in UTF-8. */
export function utf8Length(text: string): number {
  let length = 0;
  for (const character of text) {
    const code = character.codePointAt(0)!;
    length += code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
  }
  return length;
}

/** A value cut to a length that fits into a sentence. */
export function shortened(text: string, length = 60): string {
  const line = text.replace(/\s+/g, ' ').trim();
  return line.length <= length ? line : `${line.slice(0, length - 1)}…`;
}
