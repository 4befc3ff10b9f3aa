/** An identifier as CSS writes it (CSSOM, "serialize an identifier"). */
export function cssIdentifier(text: string): string {
  let out = '';
  for (const [index, character] of Array.from(text).entries()) {
    const code = character.codePointAt(0)!;
    const isDigit = code >= 0x30 && code <= 0x39;
    const isLeadingDigit = isDigit && (index === 0 || (index === 1 && text.startsWith('-')));
    if (code === 0) out += '\ufffd';
    else if (code < 0x20 || code === 0x7f || isLeadingDigit) out += `\\${code.toString(16)} `;
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
