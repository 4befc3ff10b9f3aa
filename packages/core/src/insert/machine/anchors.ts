import { watchEnd } from './ends.js';
import { tagPosition } from './insert-element.js';
import { Anchor, contextBits } from './place-bits.js';
import { Event, TokenizerState, type Machine } from './state.js';
import { Tag } from './tags.js';
import { startTag } from './tree.js';

/** So many bytes after a pre are looked at: a reference to a line break is the longest. */
export const NEWLINE_LOOKAHEAD: number = 16;

/** Elements whose content may begin with a line break that the parser drops (HTML Standard 13.2.6.4.7). */
export function dropsNewline(tag: number): boolean {
  return tag === Tag.Pre || tag === Tag.Listing;
}

/** Processes a start tag that may be of an element that parts ask for, and tells of the places before and in it. */
export function startAnchor(m: Machine): void {
  const before = contextBits(m);
  const oldest = m.open.nextUid;
  const top = m.open.top;
  const parent = top >= 0 ? m.open.uid(top) : 0;
  const firstEvent = m.eventCount;
  m.appended = false;
  m.open.lowest = top + 1;
  m.selection.foundCount = 0;
  startTag(m);
  if (m.selection.foundCount === 0) return;
  const place = placeBits(m, before, parent, oldest, firstEvent);
  const content = contentStart(m);
  // In html itself nothing can stand but head and body.
  const fits = content >= 0 && m.tag !== Tag.Html && isOpen(m, oldest);
  const inside = fits ? contextBits(m) : Anchor.Refused;
  const insideAt = m.base + (fits ? content : m.tagEnd);
  // In the order of the page, whatever several selectors ask of it.
  const count = m.selection.foundCount;
  for (let i = 0; i < count; i++) m.event(Event.Before, tagPosition(m), m.selection.found.get(i), place);
  for (let i = 0; i < count; i++) m.event(Event.Inside, insideAt, m.selection.found.get(i), inside);
  for (let i = 0; i < count; i++) {
    const number = m.selection.found.get(i);
    if (m.selection.wantsEnd(number)) startEnd(m, number, oldest);
  }
}

/** Elements that parts ask for have come without a tag of their own. */
export function tellRefused(m: Machine): void {
  const position = m.base + m.at;
  for (let i = 0; i < m.selection.refusedCount; i++)
    for (let side: number = Event.Before; side <= Event.After; side++)
      m.event(side, position, m.selection.refused.get(i), Anchor.Refused);
  m.selection.refusedCount = 0;
}

/** The end of the element is awaited; one without content ends with its tag. */
function startEnd(m: Machine, number: number, oldest: number): void {
  const top = m.open.top;
  const isFrame = m.tag === Tag.Html || m.tag === Tag.Head || m.tag === Tag.Body || m.tag === Tag.Frameset;
  if (!isFrame && top >= 0 && m.open.uid(top) >= oldest && m.open.tag(top) === m.tag) {
    watchEnd(m, number);
    return;
  }
  m.event(Event.InsideEnd, m.base + m.tagEnd, number, Anchor.Refused);
  m.event(Event.After, m.base + m.tagEnd, number, m.appended ? contextBits(m) : Anchor.Refused);
}

/** Whether what comes next is in the element of the current tag. */
function isOpen(m: Machine, oldest: number): boolean {
  const top = m.open.top;
  return (
    m.tokenizerState === TokenizerState.Data &&
    top >= 0 &&
    m.open.uid(top) >= oldest &&
    m.open.tag(top) === m.tag &&
    m.tag !== Tag.Template &&
    m.tag !== Tag.Frameset &&
    !m.open.isForeign()
  );
}

/** Whether the element has become the next child of the node that was the current one, or of one around it. */
function placeBits(m: Machine, before: number, parent: number, oldest: number, firstEvent: number): number {
  if (m.tag === Tag.Html || m.tag === Tag.Head || m.tag === Tag.Body || m.tag === Tag.Frameset || m.fostered)
    return Anchor.Refused;
  // A head or a body that begins right here has its event before.
  if (m.eventCount > firstEvent) return before;
  const top = m.open.top;
  const isPushed = top >= 0 && m.open.uid(top) >= oldest && m.open.tag(top) === m.tag;
  const above = isPushed ? top - 1 : top;
  if (above < 0) return before;
  const uid = m.open.uid(above);
  if (uid === parent) return before;
  if (uid >= oldest || m.open.lowest !== above + 1) return Anchor.Refused;
  let bits = before;
  if (m.open.lowestTag === Tag.P) bits &= ~Anchor.InParagraph;
  if (m.formatting.needsReconstruction()) bits |= Anchor.Reopens;
  return bits | (Anchor.Closes * (m.open.lowestTag + 1));
}

/** Where content begins that the parser would not drop, in the window; -1 where a reference makes it unclear. */
function contentStart(m: Machine): number {
  const at = m.tagEnd;
  if (!dropsNewline(m.tag) || at >= m.end) return at;
  const byte = m.window.get(at);
  if (byte === 0x0a) return at + 1;
  if (byte === 0x0d) return at + 1 < m.end && m.window.get(at + 1) === 0x0a ? at + 2 : at + 1;
  if (byte !== 0x26 || at + 1 >= m.end) return at;
  const next = m.window.get(at + 1);
  return next === 0x23 || next === 0x4e ? -1 : at;
}
