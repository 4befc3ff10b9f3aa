import { Is } from './classes.js';
import { Ns } from './open-elements.js';
import { endHead, implyBody, implyHead, rulesOutFrameset } from './places.js';
import { reconstruct } from './reconstruct.js';
import { Mode, type Machine } from './state.js';
import { leaveColumnGroup } from './table.js';
import { Tag } from './tags.js';

const AMPERSAND = 0x26;

/** Stands for "more bytes are needed to tell". */
const WAIT: number = -1;

/**
 * Processes the text in `[from, to)` of the window, which no tag interrupts.
 *
 * @param closed - the text ends at `to`; otherwise a reference there may still go on
 * @returns how far it was processed
 */
export function text(m: Machine, from: number, to: number, closed: boolean): number {
  let at = from;
  // Until the body has begun, white space and everything else are different things.
  while (m.mode <= Mode.AfterHead && m.open.templates === 0 && m.open.currentNs() === Ns.Html) {
    const solid = skipWhiteSpace(m, at, to, closed);
    if (solid === WAIT) return waitAt(m, at, to);
    if (solid >= to) return to;
    at = solid;
    startBody(m, m.base + solid);
  }
  if (m.mode === Mode.InFrameset || m.mode === Mode.AfterFrameset || m.mode === Mode.AfterAfterFrameset)
    return to;
  if (!m.framesetOk && !m.formatting.needsReconstruction() && m.mode !== Mode.InColumnGroup) {
    if (m.mode === Mode.AfterBody || m.mode === Mode.AfterAfterBody) return afterBody(m, at, to, closed);
    return to;
  }
  return slowText(m, at, to, closed);
}

/** Text while a frameset may still come, a formatting element waits to be opened again, or in a column group. */
function slowText(m: Machine, from: number, to: number, closed: boolean): number {
  const solid = skipWhiteSpace(m, from, to, closed);
  if (solid === WAIT) return waitAt(m, from, to);
  if (m.open.isForeign()) {
    // NUL becomes a replacement character there and is not counted (13.2.6.5).
    const counts = skipNulls(m, solid, to, closed);
    if (counts === WAIT) return waitAt(m, from, to);
    if (counts < to && m.framesetOk) rulesOutFrameset(m, m.base + counts);
    return to;
  }
  switch (m.mode) {
    case Mode.InSelect:
    case Mode.InSelectInTable:
      return to;
    case Mode.InColumnGroup:
      if (solid >= to || !leaveColumnGroup(m)) return to;
      return text(m, solid, to, closed);
    case Mode.AfterBody:
    case Mode.AfterAfterBody:
      if (solid < to) m.mode = Mode.InBody;
      break;
    default:
      break;
  }
  const counts = skipNulls(m, solid, to, closed);
  if (counts === WAIT) return waitAt(m, from, to);
  const inTable =
    (m.mode === Mode.InTable || m.mode === Mode.InTableBody || m.mode === Mode.InRow) &&
    m.open.currentIs(Is.TableContext);
  // White space alone stays in the table as it is; NULs are dropped.
  const isSolid = counts < to;
  if (isSolid || (!inTable && hasOtherThanNull(m, from, to))) reconstruct(m);
  if (isSolid && m.framesetOk) rulesOutFrameset(m, m.base + counts);
  return to;
}

function afterBody(m: Machine, from: number, to: number, closed: boolean): number {
  const solid = skipWhiteSpace(m, from, to, closed);
  if (solid === WAIT) return waitAt(m, from, to);
  if (solid < to) m.mode = Mode.InBody;
  return to;
}

/** How far text is done that cannot be judged to its end: to the reference that may go on. */
function waitAt(m: Machine, from: number, to: number): number {
  const ampersand = m.window.find(AMPERSAND, from, to);
  return ampersand < to ? from : to;
}

/** Something solid stands where no body is yet: all that is missing before it is implied. */
function startBody(m: Machine, position: number): void {
  if (m.mode <= Mode.BeforeHtml) {
    m.open.push(Tag.Html, Ns.Html, false);
    m.mode = Mode.BeforeHead;
  }
  if (m.mode === Mode.BeforeHead) implyHead(m, position);
  if (m.mode === Mode.InHead) endHead(m, position, false);
  if (m.mode === Mode.AfterHead) implyBody(m, position);
}

/** The first thing in `[from, to)` that is no white space, written out or as a reference; `to` for none, or `WAIT`. */
function skipWhiteSpace(m: Machine, from: number, to: number, closed: boolean): number {
  let at = m.window.skipSpace(from, to);
  while (at < to && m.window.get(at) === AMPERSAND) {
    const after = spaceReference(m, at, to, closed);
    if (after === WAIT || after === at) return after;
    at = m.window.skipSpace(after, to);
  }
  return at;
}

/** From `from` on, the first thing that is neither NUL nor white space. */
function skipNulls(m: Machine, from: number, to: number, closed: boolean): number {
  let at = from;
  while (at !== WAIT && at < to && m.window.get(at) === 0) at = skipWhiteSpace(m, at + 1, to, closed);
  return at;
}

function hasOtherThanNull(m: Machine, from: number, to: number): boolean {
  for (let i = from; i < to; i++) if (m.window.get(i) !== 0) return true;
  return false;
}

/**
 * Reads a character reference (13.2.5.72–84) that stands for white space.
 * @returns where it ends; `at` when it is none; `WAIT` when more bytes are needed
 */
function spaceReference(m: Machine, at: number, to: number, closed: boolean): number {
  const unsure = closed ? at : WAIT;
  let i = at + 1;
  if (i >= to) return unsure;
  const first = m.window.get(i);
  if (first === 0x54) return namedReference(m, at, to, unsure, 'Tab;');
  if (first === 0x4e) return namedReference(m, at, to, unsure, 'NewLine;');
  if (first !== 0x23) return at;
  i++;
  if (i >= to) return unsure;
  const isHex = (m.window.get(i) | 0x20) === 0x78;
  if (isHex) i++;
  let value = 0;
  const digits = i;
  for (; i < to; i++) {
    const digit = digitOf(m.window.get(i), isHex);
    if (digit < 0) break;
    value = value > 0xffff ? value : value * (isHex ? 16 : 10) + digit;
  }
  if (i >= to && !closed) return WAIT;
  if (i === digits) return at;
  if (value !== 0x20 && value !== 0x09 && value !== 0x0a && value !== 0x0c && value !== 0x0d) return at;
  return i < to && m.window.get(i) === 0x3b ? i + 1 : i;
}

function namedReference(m: Machine, at: number, to: number, unsure: number, name: string): number {
  for (let i = 0; i < name.length; i++) {
    if (at + 1 + i >= to) return unsure;
    if (m.window.get(at + 1 + i) !== name.charCodeAt(i)) return at;
  }
  return at + 1 + name.length;
}

function digitOf(byte: number, isHex: boolean): number {
  if (byte >= 0x30 && byte <= 0x39) return byte - 0x30;
  if (!isHex) return -1;
  const lower = byte | 0x20;
  return lower >= 0x61 && lower <= 0x66 ? lower - 0x61 + 10 : -1;
}
