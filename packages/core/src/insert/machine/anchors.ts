import { Is } from './classes.js';
import { tagPosition } from './insert-element.js';
import { Event, TokenizerState, Mode, type Machine } from './state.js';
import { Tag } from './tags.js';
import { startTag } from './tree.js';

/**
 * The second argument of `Event.Before` and `Event.Inside`, as bits. From `Closes` on it holds the
 * number, plus one, of an element that the anchor's start tag ends: its end tag has to be written before the part.
 */
export const enum Anchor {
  Refused = 1,
  /** Only scripts and styles stay at this place: a table or a select is open. */
  ScriptOnly = 2,
  /** A paragraph is open, which some elements would end. */
  InParagraph = 4,
  /** Formatting elements would be opened again before text. */
  Reopens = 8,
  Closes = 256,
}

/** So many bytes after a pre are looked at: a reference to a line break is the longest. */
export const NEWLINE_LOOKAHEAD: number = 16;

/** Elements whose content may begin with a line break that the parser drops (HTML Standard 13.2.6.4.7). */
export function dropsNewline(tag: number): boolean {
  return tag === Tag.Pre || tag === Tag.Listing;
}

/** Processes a start tag with an id that parts ask for and tells of the places before and inside the element. */
export function startAnchor(m: Machine): void {
  const inTemplate = m.open.templates > 0;
  const before = contextBits(m);
  const oldest = m.open.nextUid;
  const top = m.open.top;
  const parent = top >= 0 ? m.open.uid(top) : 0;
  const firstEvent = m.eventCount;
  m.created = false;
  m.fostered = false;
  m.open.lowest = top + 1;
  startTag(m);
  // Content of a template is not in the page, and some tags open nothing where they stand.
  const opensNothing = !wasCreated(m);
  if (opensNothing || inTemplate) return;
  m.event(Event.Before, tagPosition(m), m.answer, placeBits(m, before, parent, oldest, firstEvent));
  const content = contentStart(m);
  const fits = content >= 0 && isOpen(m, oldest);
  const position = m.base + (fits ? content : m.tagEnd);
  m.event(Event.Inside, position, m.answer, fits ? contextBits(m) : Anchor.Refused);
}

function wasCreated(m: Machine): boolean {
  return m.created;
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

/** What may stand at the current place. */
function contextBits(m: Machine): number {
  if (m.open.top < 0) return 0;
  if (m.open.isForeign() || m.mode === Mode.InColumnGroup) return Anchor.Refused;
  let bits = 0;
  const inTable = m.mode === Mode.InTable || m.mode === Mode.InTableBody || m.mode === Mode.InRow;
  if (
    m.mode === Mode.InSelect ||
    m.mode === Mode.InSelectInTable ||
    (inTable && m.open.currentIs(Is.TableContext))
  )
    bits |= Anchor.ScriptOnly;
  if (m.open.inScope(Tag.P, Is.ButtonScope)) bits |= Anchor.InParagraph;
  if (m.formatting.needsReconstruction()) bits |= Anchor.Reopens;
  return bits;
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
