import { Found, closeText, endTagAt } from './raw-text-end.js';
import type { Machine } from './state.js';
import { Tag } from './tags.js';

const LT = 0x3c;
const DASH = 0x2d;
const GT = 0x3e;

/**
 * Reads a script's text to its end tag (HTML Standard 13.2.5.4 and 13.2.5.15–31). `scriptLevel` is 0 in script data, 1
 * escaped (after `<!--`), 2 double escaped (after `<script` inside that); `scriptDashes` counts the dashes right before
 * the next byte, 2 at most.
 */
export function skipScript(m: Machine): boolean {
  while (m.at < m.end) {
    if (m.scriptLevel === 0) {
      m.at = m.window.find(LT, m.at, m.end);
      if (m.at >= m.end) return false;
      const opened = opensEscape(m);
      if (opened === Found.Wait) return false;
      if (opened === Found.End) continue;
      const found = endTagAt(m, m.at);
      if (found === Found.End) return closeText(m);
      if (found === Found.Wait) return false;
      m.at++;
      continue;
    }
    const more = escaped(m);
    if (more === Found.End) return closeText(m);
    if (more === Found.Wait) return false;
  }
  return false;
}

/** `<!--` in script data. */
function opensEscape(m: Machine): number {
  const at = m.at;
  for (let i = 1; i < 4; i++) {
    if (at + i >= m.end) return m.ended ? Found.Nothing : Found.Wait;
    if (m.window.get(at + i) !== (i === 1 ? 0x21 : DASH)) return Found.Nothing;
  }
  m.scriptLevel = 1;
  m.scriptDashes = 2;
  m.at = at + 4;
  return Found.End;
}

/** Escaped script text, to the end of the script (`End`), of the escape (`Nothing`), or of the bytes (`Wait`). */
function escaped(m: Machine): number {
  while (m.at < m.end) {
    const byte = m.window.get(m.at);
    if (byte === DASH) {
      if (m.scriptDashes < 2) m.scriptDashes++;
    } else if (byte === GT && m.scriptDashes === 2) {
      m.scriptLevel = 0;
      m.scriptDashes = 0;
      m.at++;
      return Found.Nothing;
    } else {
      if (byte === LT) {
        const found = escapedTag(m);
        if (found !== Found.Nothing) return found;
      }
      m.scriptDashes = 0;
    }
    m.at++;
  }
  return Found.Wait;
}

/** A `<` in escaped text: it may end the script, or begin or end the double escape. */
function escapedTag(m: Machine): number {
  if (m.scriptLevel === 1) {
    const found = endTagAt(m, m.at);
    if (found !== Found.Nothing) return found;
    const named = scriptName(m, m.at + 1);
    if (named === Found.Wait) return Found.Wait;
    if (named === Found.End) m.scriptLevel = 2;
    return Found.Nothing;
  }
  if (m.at + 1 >= m.end) return m.ended ? Found.Nothing : Found.Wait;
  if (m.window.get(m.at + 1) !== 0x2f) return Found.Nothing;
  const named = scriptName(m, m.at + 2);
  if (named === Found.Wait) return Found.Wait;
  if (named === Found.End) m.scriptLevel = 1;
  return Found.Nothing;
}

/** `script` and a byte that ends a name (13.2.5.26, 13.2.5.31). */
function scriptName(m: Machine, at: number): number {
  const wait = m.ended ? Found.Nothing : Found.Wait;
  const length = m.names.length(Tag.Script);
  const matched = m.names.match(m.window, at, m.end, Tag.Script);
  if (matched < 0) return Found.Nothing;
  if (at + length >= m.end) return wait;
  const after = m.window.get(at + length);
  const ends =
    after === GT ||
    after === 0x2f ||
    after === 0x20 ||
    after === 0x0a ||
    after === 0x0d ||
    after === 0x09 ||
    after === 0x0c;
  return ends ? Found.End : Found.Nothing;
}
