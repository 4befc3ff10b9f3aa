import { BREAKOUT, Classes, HOLDS_HTML, SKELETON } from './machine/classes';
import { Machine } from './machine/state';
import { Tag } from './machine/tags';

/** The names of the skeleton, found by their first letters, and whole tags read with vectors. */

/** Names by their first eight bytes, and the number of each; 0 is a free slot. */
const SLOTS: i32 = 256;
/** The skeleton's names. */
const skeleton = heap.alloc(SLOTS * 16);
memory.fill(skeleton, 0, SLOTS * 16);
/** Names that mean something in foreign content. */
const foreign = heap.alloc(SLOTS * 16);
memory.fill(foreign, 0, SLOTS * 16);

/** By byte: which letter it is, from 1 on and without its case, or 0. */
const letters = heap.alloc(256);
memory.fill(letters, 0, 256);
/**
 * By the letter that a name begins with and the lower five bits of the next two bytes: 0 where no name of the skeleton
 * begins so.
 */
const starts = heap.alloc(27 << 10);
memory.fill(starts, 0, 27 << 10);
/** No name at all, or one that has to be read to be known. */
export const LOOK: i32 = 255;

function slotOf(name: u64): i32 {
  return <i32>((name * 0x9e3779b97f4a7c15) >> 56);
}

function startOf(first: i32, second: i32, third: i32): usize {
  return starts + <usize>(((first & 31) << 10) | ((second & 31) << 5) | (third & 31));
}

function addTo(classes: Classes, slots: usize, names: string, from: i32, to: i32): void {
  let name: u64 = 0;
  for (let i = from; i < to && i < from + 8; i++) name |= (<u64>names.charCodeAt(i)) << (<u64>((i - from) * 8));
  let slot = slotOf(name);
  while (load<u64>(slots + (<usize>slot << 4)) !== 0) slot = (slot + 1) & (SLOTS - 1);
  store<u64>(slots + (<usize>slot << 4), name);
  store<i32>(slots + (<usize>slot << 4), classes.numberOf(names, from, to), 8);
}

function addStart(classes: Classes, names: string, from: i32, to: i32): void {
  const first = names.charCodeAt(from);
  const second = names.charCodeAt(from + 1);
  if (to - from > 2) {
    store<u8>(startOf(first, second, names.charCodeAt(from + 2)), LOOK);
    return;
  }
  // The byte after it: what ends a name. A letter with the same five bits is told apart when the name is read.
  const kind = classes.numberOf(names, from, to) + 1;
  for (let i = 0; i < 256; i++)
    if (i <= 0x20 || i === 0x2f || i === 0x3e) store<u8>(startOf(first, second, i), kind);
}

/** Fills the tables. */
export function addNames(classes: Classes): void {
  for (let i = 1; i <= 26; i++) {
    store<u8>(letters + 0x40 + <usize>i, i);
    store<u8>(letters + 0x60 + <usize>i, i);
  }
  memory.fill(starts, <u8>LOOK, 1 << 10);
  // Names of three letters and more first: two-letter ones have the last word where both begin alike.
  for (let shorter = 0; shorter < 2; shorter++) {
    let from = 1;
    while (from < SKELETON.length) {
      const to = SKELETON.indexOf(' ', from);
      if (to - from <= 2 === (shorter === 1)) addStart(classes, SKELETON, from, to);
      if (shorter === 0) addTo(classes, skeleton, SKELETON, from, to);
      from = to + 1;
    }
  }
  addAll(classes, foreign, BREAKOUT);
  addAll(classes, foreign, HOLDS_HTML);
}

function addAll(classes: Classes, slots: usize, names: string): void {
  let from = 1;
  while (from < names.length) {
    const to = names.indexOf(' ', from);
    addTo(classes, slots, names, from, to);
    from = to + 1;
  }
}

/**
 * What the name that begins with these bytes may be: 0 an ordinary one, `LOOK` unknown, otherwise one more than the
 * number of the two-letter name that it is, if a byte that ends names follows.
 */
@inline
export function kindOf(name: i32): i32 {
  const letter: i32 = load<u8>(letters + <usize>(name & 0xff));
  return load<u8>(starts + <usize>((letter << 10) | (((name >> 8) & 31) << 5) | ((name >> 16) & 31)));
}

/** Where a name ends: at white space (or a control character, which no name here has), `/` or `>`; 16 for not in here. */
@inline
function nameLength(name: usize): i32 {
  const block = v128.load(name);
  const ends = v128.or(
    i8x16.le_u(block, i8x16.splat(0x20)),
    v128.or(i8x16.eq(block, i8x16.splat(0x2f)), i8x16.eq(block, i8x16.splat(0x3e))),
  );
  return ctz(i8x16.bitmask(ends) | 0x10000);
}

/** The number of the name at an address if it is one of the skeleton; -1 for an ordinary one, -2 for one to be read by the tokenizer. */
export function numberAt(name: usize): i32 {
  if (load<u8>(letters + <usize>load<u8>(name)) === 0) return -2;
  const length = nameLength(name);
  if (length === 16) return -2;
  const slot = slotAt(skeleton, name, length);
  if (slot === 0) return -1;
  // A longer one may only begin like it.
  return length > 8 ? -2 : load<i32>(slot, 8);
}

/** How long the name at an address is, if it means nothing in foreign content; otherwise 0. */
export function plainForeignLength(name: usize): i32 {
  if (load<u8>(letters + <usize>load<u8>(name)) === 0) return 0;
  const length = nameLength(name);
  if (length === 16 || slotAt(skeleton, name, length) !== 0) return 0;
  return slotAt(foreign, name, length) === 0 ? length : 0;
}

@inline
function slotAt(slots: usize, name: usize, length: i32): usize {
  const bits: u64 = length >= 8 ? ~(<u64>0) : ((<u64>1) << (<u64>(length << 3))) - 1;
  const bytes = (load<u64>(name) | 0x2020202020202020) & bits;
  let slot = slotOf(bytes);
  let there = load<u64>(slots + (<usize>slot << 4));
  while (there !== 0 && there !== bytes) {
    slot = (slot + 1) & (SLOTS - 1);
    there = load<u64>(slots + (<usize>slot << 4));
  }
  return there === 0 ? 0 : slots + (<usize>slot << 4);
}

/**
 * The end of a whole tag; 0 if the bytes end first or it is one for the tokenizer (see `attributesEnd`). `tag` is the
 * address of its `<`, after which a letter or `/` and a letter follow.
 */
export function tagEndAt(m: Machine, tag: usize, last: usize): usize {
  const name = tag + 1 + <usize>(load<u8>(tag, 1) === 0x2f);
  const length = nameLength(name);
  if (length === 16) return 0;
  m.tagNameEnd = <i32>(name + <usize>length - m.window.at);
  return attributesEnd(name + <usize>length, last);
}

/**
 * The end of the tag whose name ends at `nameEnd`, if all of its values stand in quotes right after a plain name and
 * `=`, or an unquoted one at its end has no slash behind; otherwise, or if the bytes end first, 0.
 */
export function attributesEnd(nameEnd: usize, last: usize): usize {
  let at = nameEnd;
  const gt = i8x16.splat(0x3e);
  const double = i8x16.splat(0x22);
  const single = i8x16.splat(0x27);
  const equals = i8x16.splat(0x3d);
  let hasEquals = false;
  // From here, or from the last closing quote, to the next `>`, quote or `=`.
  let base = at;
  let mask = structure(v128.load(at), gt, double, single, equals);
  while (true) {
    while (mask === 0) {
      base += 16;
      if (base >= last) return 0;
      mask = structure(v128.load(base), gt, double, single, equals);
    }
    at = base + <usize>ctz(mask);
    if (at >= last) return 0;
    mask &= mask - 1;
    const byte: i32 = load<u8>(at);
    if (byte === 0x3e) return hasEquals && load<u8>(at - 1) === 0x2f ? 0 : at + 1;
    if (byte === 0x3d) {
      if (hasEquals) return 0;
      hasEquals = true;
      continue;
    }
    if (!hasEquals || load<u8>(at - 1) !== 0x3d || !isPlainName(load<u8>(at - 2))) return 0;
    // The closing quote.
    const quote = byte === 0x22 ? double : single;
    at++;
    let close = i8x16.bitmask(i8x16.eq(v128.load(at), quote));
    while (close === 0) {
      at += 16;
      if (at >= last) return 0;
      close = i8x16.bitmask(i8x16.eq(v128.load(at), quote));
    }
    at += <usize>ctz(close) + 1;
    if (at > last) return 0;
    hasEquals = false;
    base = at;
    mask = structure(v128.load(base), gt, double, single, equals);
  }
  return 0;
}

@inline
function structure(block: v128, gt: v128, double: v128, single: v128, equals: v128): i32 {
  return i8x16.bitmask(
    v128.or(
      v128.or(i8x16.eq(block, gt), i8x16.eq(block, equals)),
      v128.or(i8x16.eq(block, double), i8x16.eq(block, single)),
    ),
  );
}

/** Letters, digits, `-`, `_`, `:` and `.`: what attribute names are made of. */
@inline
function isPlainName(byte: i32): bool {
  const lower = byte | 0x20;
  return (lower >= 0x61 && lower <= 0x7a) || (byte >= 0x2d && byte <= 0x3a && byte !== 0x2f) || byte === 0x5f;
}

/** Foreign elements may close themselves; that is for the tokenizer to see. */
@inline
export function isForeign(number: i32): bool {
  return number === Tag.Svg || number === Tag.Math;
}
