import { plainTagEnd } from './pass.js';
import { Wants } from './selection.js';
import type { Machine } from './state.js';

const GT = 0x3e;
const SLASH = 0x2f;
const EQUALS = 0x3d;

function isSpace(byte: number): boolean {
  return byte === 0x20 || byte === 0x0a || byte === 0x0d || byte === 0x09 || byte === 0x0c;
}

/**
 * Reads the tag whose name begins at `nameFrom` (HTML Standard 13.2.5.8 and 13.2.5.32–40) into the machine's token.
 * @returns false when the bytes end first
 */
export function readTag(m: Machine, nameFrom: number): boolean {
  const i = m.window.nameEnd(nameFrom, m.end);
  if (i >= m.end) return false;
  m.isWanted = false;
  m.selfClosing = false;
  m.valueSlash = -1;
  m.tagNameEnd = i;
  if (m.window.get(i) === GT) m.tagEnd = i + 1;
  else if (!readPlainAttributes(m, i) && !readAttributes(m, i)) return false;
  m.tagStart = m.at;
  m.tagRead = 0;
  m.tag = m.names.number(m.window, nameFrom, m.tagNameEnd);
  return true;
}

/** Passes attributes that are written as they should be, when nobody asks for them. */
function readPlainAttributes(m: Machine, from: number): boolean {
  if (wantsAttributes(m) || m.tagRead > 0) return false;
  const end = plainTagEnd(m, from);
  if (end === 0) return false;
  m.tagEnd = end;
  m.selfClosing = m.window.get(end - 2) === SLASH;
  return true;
}

/** Reads attributes up to the tag's `>`. What was read is remembered when the bytes end first. */
function readAttributes(m: Machine, from: number): boolean {
  const window = m.window;
  const end = m.end;
  const wants = m.selection.wants;
  // Where attributes are wanted all is read again, so that none that was seen is forgotten.
  let i = m.tagRead > 0 && !wantsAttributes(m) ? m.at + m.tagRead : from;
  while (i < end) {
    let byte = window.get(i);
    if (byte === GT) {
      m.tagEnd = i + 1;
      m.selfClosing = window.get(i - 1) === SLASH && m.tagNameEnd < i && m.valueSlash !== i - 1;
      return true;
    }
    if (byte === SLASH || isSpace(byte)) {
      i++;
      continue;
    }
    // An attribute begins; reading goes on here if it is not complete.
    m.tagRead = i - m.at;
    const nameFrom = i;
    i = window.attributeNameEnd(i + 1, end);
    const nameTo = i;
    if (i < end && window.get(i) !== EQUALS) i = window.skipSpace(i, end);
    if (i >= end) return false;
    if (wants !== 0 && isWanted(m, wants, nameFrom, nameTo - nameFrom)) m.isWanted = true;
    if (window.get(i) !== EQUALS) continue;
    i++;
    if (i >= end) return false;
    byte = window.get(i);
    if (isSpace(byte)) {
      i = window.skipSpace(i, end);
      if (i >= end) return false;
      byte = window.get(i);
    }
    if (byte === 0x22 || byte === 0x27) {
      i = window.find(byte, i + 1, end) + 1;
      if (i > end) return false;
    } else {
      i = window.unquotedEnd(i, end);
      if (i >= end) return false;
      // A slash that ends an unquoted value belongs to it.
      m.valueSlash = i - 1;
    }
  }
  return false;
}

function wantsAttributes(m: Machine): boolean {
  return (m.selection.wants & (Wants.Ids | Wants.Classes | Wants.Attributes)) !== 0;
}

/** Whether selectors ask for tags with the attribute whose name begins at `at`. */
function isWanted(m: Machine, wants: number, at: number, length: number): boolean {
  if ((wants & Wants.Attributes) !== 0) return true;
  if (length === 2) return (wants & Wants.Ids) !== 0 && isName(m, at, 'id');
  return length === 5 && (wants & Wants.Classes) !== 0 && isName(m, at, 'class');
}

function isName(m: Machine, at: number, name: string): boolean {
  for (let i = 0; i < name.length; i++)
    if ((m.window.get(at + i) | 0x20) !== name.charCodeAt(i)) return false;
  return true;
}
