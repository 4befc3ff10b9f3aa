import { plainTagEnd } from './pass.js';
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
  m.idFrom = -1;
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
  if (m.wantsIds || m.tagRead > 0) return false;
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
  // With ids wanted all is read again, so that none that was seen is forgotten.
  let i = m.tagRead > 0 && !m.wantsIds ? m.at + m.tagRead : from;
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
    const wantsId = m.wantsIds && nameTo - nameFrom === 2 && m.idFrom < 0 && isId(m, nameFrom);
    if (wantsId) {
      m.idFrom = nameTo;
      m.idTo = nameTo;
    }
    if (window.get(i) !== EQUALS) continue;
    i++;
    if (i >= end) return false;
    byte = window.get(i);
    if (isSpace(byte)) {
      i = window.skipSpace(i, end);
      if (i >= end) return false;
      byte = window.get(i);
    }
    let valueFrom = i;
    let valueTo: number;
    if (byte === 0x22 || byte === 0x27) {
      valueFrom = i + 1;
      valueTo = window.find(byte, valueFrom, end);
      if (valueTo >= end) return false;
      i = valueTo + 1;
    } else {
      i = window.unquotedEnd(i, end);
      if (i >= end) return false;
      valueTo = i;
      // A slash that ends an unquoted value belongs to it.
      m.valueSlash = i - 1;
    }
    if (wantsId) {
      m.idFrom = valueFrom;
      m.idTo = valueTo;
    }
  }
  return false;
}

function isId(m: Machine, at: number): boolean {
  return (m.window.get(at) | 0x20) === 0x69 && (m.window.get(at + 1) | 0x20) === 0x64;
}
