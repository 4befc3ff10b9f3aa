import { escapeCode } from './escape-code.js';

/**
 * How code is written into a page of some encoding.
 *
 * @param code - as it was pasted
 * @param encoding - name in the Encoding Standard; undefined for an unknown one in which ASCII is ASCII
 * @returns the bytes, or undefined where the code has characters that can neither be written nor escaped there
 */
export function writtenCode(code: string, encoding: string | undefined): Uint8Array | undefined {
  switch (encoding) {
    case 'utf-8':
      return new TextEncoder().encode(code);
    case 'utf-16le':
    case 'utf-16be':
      return utf16(code, encoding === 'utf-16be');
    case 'replacement':
      return undefined;
  }
  const table = encoding === undefined ? undefined : singleByteTable(encoding);
  const isLacking = (character: string): boolean => character > '\x7f' && !table?.has(character);
  const writable = isAscii(code) ? code : escapeCode(code, isLacking);
  if (writable === undefined) return undefined;
  const bytes = new Uint8Array(writable.length);
  for (let i = 0; i < writable.length; i++) {
    const character = writable[i]!;
    bytes[i] = character <= '\x7f' ? character.charCodeAt(0) : table!.get(character)!;
  }
  return bytes;
}

function isAscii(text: string): boolean {
  for (let i = 0; i < text.length; i++) if (text.charCodeAt(i) > 0x7f) return false;
  return true;
}

function utf16(text: string, highFirst: boolean): Uint8Array {
  const bytes = new Uint8Array(text.length * 2);
  const view = new DataView(bytes.buffer);
  for (let i = 0; i < text.length; i++) view.setUint16(i * 2, text.charCodeAt(i), !highFirst);
  return bytes;
}

/** Encodings in which one byte can be only part of a character; their characters are escaped. */
const MULTI_BYTE = new Set(['gbk', 'gb18030', 'big5', 'euc-jp', 'iso-2022-jp', 'shift_jis', 'euc-kr']);
const tables = new Map<string, ReadonlyMap<string, number>>();

/** The characters beyond ASCII that a single-byte encoding has, with their bytes; undefined for other encodings. */
function singleByteTable(encoding: string): ReadonlyMap<string, number> | undefined {
  if (MULTI_BYTE.has(encoding)) return undefined;
  const known = tables.get(encoding);
  if (known) return known;
  const table = new Map<string, number>();
  if (encoding !== 'x-user-defined') {
    const decoder = new TextDecoder(encoding);
    for (let byte = 0x80; byte <= 0xff; byte++) {
      const character = decoder.decode(Uint8Array.of(byte));
      if (character.length === 1 && character !== '\ufffd') table.set(character, byte);
    }
  }
  tables.set(encoding, table);
  return table;
}
