import { End, Is } from './classes.js';
import { Ns } from './open-elements.js';
import { Anchor, contextBits, contextBitsAt } from './place-bits.js';
import { Event, Token, TokenizerState, type Machine } from './state.js';
import { Tag } from './tags.js';

/*
 * Where elements end that parts ask for. An end tag of its own is the plain case; an element may also be ended by
 * another tag, or by the end of the page (not of the body: what follows that still comes into it). Then, and where
 * elements are still open in it, end tags that the page leaves out have to be written before a part, so that it stands
 * where it is to stand.
 */

/** So many elements with implied ends in one another are looked through: a page may nest thousands. */
const MAX_IMPLIED: number = 32;

/** How an element is kept in `ends`. */
const STRIDE: number = 8;
const UID: number = 0;
const SELECTOR: number = 1;
const INDEX: number = 2;
const TAG: number = 3;
/** What may stand last in it, and behind it if it is ended here: `Anchor` bits, before the current token. */
const INSIDE: number = 4;
const AFTER: number = 5;
/** 1: nothing but elements with implied end tags is open in it. */
const IS_PLAIN: number = 6;
/** 1: what is below it on the stack is not what it stands in. */
const IS_DETACHED: number = 7;

/** The current node's end is to be told. */
export function watchEnd(m: Machine, selector: number): void {
  const at = m.endCount * STRIDE;
  m.ends.reserve(at + STRIDE);
  m.ends.set(at + UID, m.open.uid(m.open.top));
  m.ends.set(at + SELECTOR, selector);
  m.ends.set(at + INDEX, m.open.top);
  m.ends.set(at + TAG, m.open.tag(m.open.top));
  m.endCount++;
}

/** Before a token: how each awaited element could be ended by it. */
export function beforeToken(m: Machine): void {
  m.token = Token.Other;
  for (let i = 0; i < m.endCount; i++) {
    const at = i * STRIDE;
    const index = m.ends.get(at + INDEX);
    m.ends.set(at + INSIDE, insideBits(m, index));
    m.ends.set(at + AFTER, afterBits(m, index, m.ends.get(at + TAG)));
    m.ends.set(at + IS_PLAIN, isPlain(m, index) ? 1 : 0);
    m.ends.set(at + IS_DETACHED, m.selection.isDetached(index) ? 1 : 0);
  }
}

/** After a token: tells of the elements that it has ended, before whatever else it has told since `firstEvent`. */
export function afterToken(m: Machine, firstEvent: number): void {
  const told = m.eventCount;
  // Inner ones first, and all that several selectors ask of one together.
  let last = m.endCount - 1;
  while (last >= 0) {
    const first = firstOfElement(m, last);
    if (!isStillOpen(m, first, last)) tell(m, first, last);
    last = first - 1;
  }
  if (m.eventCount > told) moveEvents(m, firstEvent, told);
}

/** At the end of the page: what is still open ends here. */
export function endAll(m: Machine, position: number): void {
  if (m.endCount === 0) return;
  beforeToken(m);
  // The last two characters of the page may be text, behind which nothing can be put.
  const isAble = m.tokenizerState === TokenizerState.Data && m.openEndAt < 0;
  let last = m.endCount - 1;
  while (last >= 0) {
    const first = firstOfElement(m, last);
    for (let i = first; i <= last; i++) tellOf(m, i, Event.InsideEnd, position, isAble ? INSIDE : -1);
    for (let i = first; i <= last; i++) tellOf(m, i, Event.After, position, isAble ? AFTER : -1);
    last = first - 1;
  }
  m.endCount = 0;
}

/** Elements that several selectors have found are kept once for each, one behind the other. */
function firstOfElement(m: Machine, last: number): number {
  const uid = m.ends.get(last * STRIDE + UID);
  let first = last;
  while (first > 0 && m.ends.get((first - 1) * STRIDE + UID) === uid) first--;
  return first;
}

/** Whether the element is still open; others may have gone below it. */
function isStillOpen(m: Machine, first: number, last: number): boolean {
  const uid = m.ends.get(first * STRIDE + UID);
  const index = m.ends.get(first * STRIDE + INDEX);
  if (index <= m.open.top && m.open.uid(index) === uid) return true;
  const moved = m.open.indexOf(uid);
  if (moved < 0) return false;
  for (let i = first; i <= last; i++) m.ends.set(i * STRIDE + INDEX, moved);
  return true;
}

/** Tells of the end of the element, which is forgotten then. */
function tell(m: Machine, first: number, last: number): void {
  const position = m.base + m.tagStart;
  const isOwn = isOwnEnd(m, first * STRIDE);
  const mayEnd = m.token !== Token.Other && (isOwn || isEndedPlainly(m));
  for (let i = first; i <= last; i++) tellOf(m, i, Event.InsideEnd, position, mayEnd ? INSIDE : -1);
  for (let i = first; i <= last; i++) {
    const selector = m.ends.get(i * STRIDE + SELECTOR);
    if (m.ends.get(i * STRIDE + IS_DETACHED) === 1) m.event(Event.After, position, selector, Anchor.Refused);
    else if (isOwn) m.event(Event.After, m.base + m.tagEnd, selector, contextBits(m));
    else tellOf(m, i, Event.After, position, mayEnd ? AFTER : -1);
  }
  m.endCount -= last - first + 1;
  m.ends.move(first * STRIDE, (last + 1) * STRIDE, (m.endCount - first) * STRIDE);
}

/** @param bits - which of the numbers kept says what may stand there; -1 for nothing */
function tellOf(m: Machine, i: number, side: number, position: number, bits: number): void {
  const at = i * STRIDE;
  m.event(side, position, m.ends.get(at + SELECTOR), bits < 0 ? Anchor.Refused : m.ends.get(at + bits));
}

/** The element's own end tag has ended it, and nothing else with it but what it implies. */
function isOwnEnd(m: Machine, at: number): boolean {
  return (
    m.token === Token.EndTag &&
    m.tag === m.ends.get(at + TAG) &&
    m.ends.get(at + IS_PLAIN) === 1 &&
    m.open.top === m.ends.get(at + INDEX) - 1
  );
}

/** Tags of formatting elements move what they end; others only end it. */
function isEndedPlainly(m: Machine): boolean {
  return !m.classes.is(m.tag, Is.Formatting);
}

/** Whether all that is open in the element would be ended with it; more than anybody writes is not looked through. */
function isPlain(m: Machine, index: number): boolean {
  if (m.open.top - index > MAX_IMPLIED) return false;
  for (let i = m.open.top; i > index; i--) if (!m.open.is(i, Is.Implied)) return false;
  return true;
}

function insideBits(m: Machine, index: number): number {
  if (isInText(m)) return Anchor.Refused;
  if (index === m.open.top) return contextBits(m);
  if (!isPlain(m, index) || !closesAll(m, index + 1)) return Anchor.Refused;
  return contextBitsAt(m, index) | (Anchor.Closes * (m.open.tag(index + 1) + 1));
}

/** Whether the end tag of the element at `index` closes it with all that is open in it, which has implied ends. */
function closesAll(m: Machine, index: number): boolean {
  const end = m.classes.ends.get(m.open.tag(index));
  // It would close the innermost of its name.
  for (let i = m.open.top; i > index; i--) if (m.open.tag(i) === m.open.tag(index)) return false;
  return index === m.open.top || end !== End.Other;
}

/** What may stand behind the element if its end tag is written here. */
function afterBits(m: Machine, index: number, tag: number): number {
  if (isInText(m) || tag >= Tag.Known || !isPlain(m, index)) return Anchor.Refused;
  if (m.open.ns(index) !== Ns.Html || m.classes.is(tag, Is.Skeleton | Is.Formatting)) return Anchor.Refused;
  if (m.selection.isDetached(index)) return Anchor.Refused;
  const end = m.classes.ends.get(tag);
  const isClosable =
    end === End.Block ||
    end === End.P ||
    end === End.ListItem ||
    end === End.DefinitionItem ||
    end === End.Heading;
  if (!isClosable || !closesAll(m, index)) return Anchor.Refused;
  return contextBitsAt(m, index - 1) | (Anchor.Closes * (tag + 1));
}

/** Whether what comes is text, of an element or a comment. */
function isInText(m: Machine): boolean {
  return m.tokenizerState !== TokenizerState.Data && m.tokenizerState !== TokenizerState.Tag;
}

/** What was told from `from` on goes before what was told from `to` on. */
function moveEvents(m: Machine, to: number, from: number): void {
  const count = m.eventCount - from;
  if (to === from) return;
  const size = m.eventCount * 4;
  m.events.reserve(size + count * 4);
  m.events.move((to + count) * 4, to * 4, (m.eventCount - to) * 4);
  m.events.move(to * 4, size, count * 4);
}
