import { decodeCharacterReferences } from '../character-references.js';

/** What a start tag says: its name in lower case and its attributes, the first of each name. */
export interface WrittenTag {
  readonly name: string;
  readonly attributes: ReadonlyMap<string, string>;
}

const ATTRIBUTE =
  /[\t\n\f\r /]*(?:([^\t\n\f\r />][^\t\n\f\r />=]*)[\t\n\f\r ]*(?:=[\t\n\f\r ]*(?:"([^"]*)"|'([^']*)'|([^\t\n\f\r >]*)))?)?/y;

/**
 * Reads a whole start tag, from its `<` to its `>`, as the tokenizer does (HTML Standard 13.2.5.6, 13.2.5.8 and
 * 13.2.5.32–40). Linear in its length.
 */
export function readWrittenTag(written: string): WrittenTag {
  const text = written.includes('\0') ? written.replaceAll('\0', '\ufffd') : written;
  const name = /^<([^\t\n\f\r />]*)/.exec(text)![1]!;
  const attributes = new Map<string, string>();
  const end = text.length - 1;
  ATTRIBUTE.lastIndex = name.length + 1;
  while (ATTRIBUTE.lastIndex < end) {
    const [all, key, double, single, plain] = ATTRIBUTE.exec(text)!;
    if (all === '' || key === undefined) break;
    const lower = asciiLower(key);
    if (!attributes.has(lower)) attributes.set(lower, valueOf(double ?? single ?? plain ?? ''));
  }
  return { name: asciiLower(name), attributes };
}

function valueOf(written: string): string {
  const text = written.includes('\r') ? written.replace(/\r\n?/g, '\n') : written;
  return text.includes('&') ? decodeCharacterReferences(text) : text;
}

/** ASCII letters in lower case, everything else as it is. */
export function asciiLower(text: string): string {
  return text.replace(/[A-Z]+/g, (letters) => letters.toLowerCase());
}
