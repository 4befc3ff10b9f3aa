/** Small helpers over bytes. ASCII only: markup is ASCII in every encoding that this folder handles. */

export const LT = 0x3c;
export const GT = 0x3e;
export const SLASH = 0x2f;
export const DASH = 0x2d;
export const EQUALS = 0x3d;
export const DOUBLE_QUOTE = 0x22;
export const SINGLE_QUOTE = 0x27;

/** ASCII whitespace of the HTML Standard plus CR, which input preprocessing turns into LF. */
export function isSpace(byte: number | undefined): boolean {
  return byte === 0x20 || byte === 0x0a || byte === 0x09 || byte === 0x0d || byte === 0x0c;
}

export function isLetter(byte: number | undefined): boolean {
  return byte !== undefined && ((byte >= 0x61 && byte <= 0x7a) || (byte >= 0x41 && byte <= 0x5a));
}

/** Whether the bytes at `at` equal the lower-case ASCII text, letters compared without case. */
export function startsWithIgnoringCase(bytes: Uint8Array, at: number, lowerCase: string): boolean {
  if (at + lowerCase.length > bytes.length) return false;
  for (let i = 0; i < lowerCase.length; i++) {
    const byte = bytes[at + i]!;
    const folded = byte >= 0x41 && byte <= 0x5a ? byte | 0x20 : byte;
    if (folded !== lowerCase.charCodeAt(i)) return false;
  }
  return true;
}

/** ASCII text of `bytes[start, end)`, letters lowered; bytes above 0x7f map one to one. */
export function lowerCaseText(bytes: Uint8Array, start: number, end: number): string {
  let text = '';
  for (let i = start; i < end; i++) {
    const byte = bytes[i]!;
    text += String.fromCharCode(byte >= 0x41 && byte <= 0x5a ? byte | 0x20 : byte);
  }
  return text;
}

export function concatBytes(chunks: readonly Uint8Array[]): Uint8Array {
  if (chunks.length === 1) return chunks[0]!;
  const total = new Uint8Array(chunks.reduce((sum, chunk) => sum + chunk.length, 0));
  let at = 0;
  for (const chunk of chunks) {
    total.set(chunk, at);
    at += chunk.length;
  }
  return total;
}
