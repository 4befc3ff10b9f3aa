import { EQUALS, DOUBLE_QUOTE, GT, SINGLE_QUOTE, SLASH, isSpace, lowerCaseText } from './bytes.js';
import { decodeCharacterReferences } from './character-references.js';

/**
 * Reads the attributes of a complete start tag (HTML Standard 13.2.5.32–40): lower-case name → decoded value.
 * Of two attributes with one name the first counts.
 *
 * @param bytes - the buffer that holds the tag
 * @param at - the first byte after the tag's name
 * @param end - one past the tag's `>`
 */
export function readAttributes(bytes: Uint8Array, at: number, end: number): Map<string, string> {
  const attributes = new Map<string, string>();
  const last = end - 1; // the closing `>`
  let i = at;
  while (i < last) {
    while (i < last && (isSpace(bytes[i]) || bytes[i] === SLASH)) i++;
    if (i >= last) break;
    const nameStart = i;
    i++; // a leading `=` is part of the name
    while (i < last && !isSpace(bytes[i]) && bytes[i] !== SLASH && bytes[i] !== EQUALS) i++;
    const name = lowerCaseText(bytes, nameStart, i);
    while (i < last && isSpace(bytes[i])) i++;
    let value = '';
    if (bytes[i] === EQUALS && i < last) {
      i++;
      while (i < last && isSpace(bytes[i])) i++;
      const quote = bytes[i];
      if (i < last && (quote === DOUBLE_QUOTE || quote === SINGLE_QUOTE)) {
        const close = bytes.indexOf(quote, i + 1);
        value = attributeText(bytes, i + 1, close);
        i = close + 1;
      } else {
        const valueStart = i;
        while (i < last && !isSpace(bytes[i]) && bytes[i] !== GT) i++;
        value = attributeText(bytes, valueStart, i);
      }
    }
    if (!attributes.has(name)) attributes.set(name, value);
  }
  return attributes;
}

const utf8 = new TextDecoder();

function attributeText(bytes: Uint8Array, start: number, end: number): string {
  const raw = utf8.decode(bytes.subarray(start, end));
  return raw.includes('&') ? decodeCharacterReferences(raw) : raw;
}
