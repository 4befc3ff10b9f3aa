/** What may stand in an identifier as it is, beyond ASCII (CSS Syntax 3, "non-ASCII ident code point"). */
const PLAIN =
  /[\u00b7\u00c0-\u00d6\u00d8-\u00f6\u00f8-\u037d\u037f-\u1fff\u200c-\u200d\u203f\u2040\u2070-\u218f\u2c00-\u2fef\u3001-\ud7ff\uf900-\ufdcf\ufdf0-\ufffd\u{10000}-\u{10ffff}]/u;

/**
 * An identifier as CSS writes it (CSSOM, "serialize an identifier"); what readers do not agree on beyond ASCII, such as
 * a no-break space, is written as a number.
 */
export function cssIdentifier(text: string): string {
  let out = '';
  for (const [index, character] of Array.from(text).entries()) {
    const code = character.codePointAt(0)!;
    const isDigit = code >= 0x30 && code <= 0x39;
    const isLeadingDigit = isDigit && (index === 0 || (index === 1 && text.startsWith('-')));
    if (code === 0) out += '\ufffd';
    else if (code < 0x20 || code === 0x7f || isLeadingDigit || (code >= 0x80 && !PLAIN.test(character)))
      out += `\\${code.toString(16)} `;
    else if (index === 0 && text === '-') out += '\\-';
    else if (code >= 0x80 || isDigit || /[-_a-z]/i.test(character)) out += character;
    else out += `\\${character}`;
  }
  return out;
}

/** A string as CSS writes it (CSSOM, "serialize a string"). */
export function cssString(text: string): string {
  const escaped = Array.from(text).map((character) => {
    const code = character.codePointAt(0)!;
    if (code === 0) return '\ufffd';
    if (code < 0x20 || code === 0x7f) return `\\${code.toString(16)} `;
    return character === '"' || character === '\\' ? `\\${character}` : character;
  });
  return `"${escaped.join('')}"`;
}
