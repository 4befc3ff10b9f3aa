/** The memory of the page machine in WebAssembly: the same shape as `src/insert/machine/memory.ts`. */

export class Ints {
  private at: usize;
  length: i32;

  constructor(length: i32) {
    this.length = length;
    this.at = heap.alloc((<usize>length) << 2);
    memory.fill(this.at, 0, (<usize>length) << 2);
  }

  get(index: i32): i32 {
    return load<i32>(this.at + ((<usize>index) << 2));
  }

  set(index: i32, value: i32): void {
    store<i32>(this.at + ((<usize>index) << 2), value);
  }

  move(to: i32, from: i32, count: i32): void {
    memory.copy(this.at + ((<usize>to) << 2), this.at + ((<usize>from) << 2), (<usize>count) << 2);
  }

  reserve(length: i32): void {
    if (length <= this.length) return;
    const size = max(length, this.length * 2);
    const grown = heap.alloc((<usize>size) << 2);
    memory.fill(grown, 0, (<usize>size) << 2);
    memory.copy(grown, this.at, (<usize>this.length) << 2);
    heap.free(this.at);
    this.at = grown;
    this.length = size;
  }

  pointer(): usize {
    return this.at;
  }
}

export class Bytes {
  private at: usize;
  length: i32;

  constructor(length: i32) {
    this.length = length;
    this.at = heap.alloc(<usize>length);
  }

  get(index: i32): i32 {
    return load<u8>(this.at + <usize>index);
  }

  set(index: i32, value: i32): void {
    store<u8>(this.at + <usize>index, <u8>value);
  }

  move(to: i32, from: i32, count: i32): void {
    memory.copy(this.at + <usize>to, this.at + <usize>from, <usize>count);
  }

  reserve(length: i32): void {
    if (length <= this.length) return;
    const size = max(length, this.length * 2);
    const grown = heap.alloc(<usize>size);
    memory.copy(grown, this.at, <usize>this.length);
    heap.free(this.at);
    this.at = grown;
    this.length = size;
  }

  copyFrom(window: PageWindow, from: i32, to: i32, count: i32): void {
    memory.copy(this.at + <usize>to, window.at + <usize>from, <usize>count);
  }
}

import { SKELETON } from './classes';
import { Tag, TAG_NAMES } from './tags';

/** A table of the skeleton's names, each as eight bytes and its number; 0 is a free slot. */
const SLOTS: i32 = 256;
const slots = heap.alloc(SLOTS * 16);
memory.fill(slots, 0, SLOTS * 16);
/** By first letter: a bit for each length that one of the names has. */
const lengths = heap.alloc(32 * 4);
memory.fill(lengths, 0, 32 * 4);

function slotOf(name: u64): i32 {
  return <i32>((name * 0x9e3779b97f4a7c15) >> 56);
}

function addName(from: i32, to: i32, tag: i32): void {
  let name: u64 = 0;
  for (let i = from; i < to && i < from + 8; i++) name |= (<u64>SKELETON.charCodeAt(i)) << (<u64>((i - from) * 8));
  let slot = slotOf(name);
  while (load<u64>(slots + (<usize>slot << 4)) !== 0) slot = (slot + 1) & (SLOTS - 1);
  store<u64>(slots + (<usize>slot << 4), name);
  store<i32>(slots + (<usize>slot << 4), tag, 8);
  const letter = lengths + (<usize>(SKELETON.charCodeAt(from) - 0x61) << 2);
  store<i32>(letter, load<i32>(letter) | (1 << (to - from)));
}

export function addSkeletonNames(): void {
  let from = 1;
  while (from < SKELETON.length) {
    const to = SKELETON.indexOf(' ', from);
    addName(from, to, numberOf(SKELETON.substring(from, to)));
    from = to + 1;
  }
}

/** The number of a known name: how many names stand before it. */
function numberOf(name: string): i32 {
  const at = (' ' + TAG_NAMES + ' ').indexOf(' ' + name + ' ');
  let number = 0;
  for (let i = 0; i < at; i++) if (TAG_NAMES.charCodeAt(i) === 0x20) number++;
  return number;
}

/** The number of a skeleton name, or -1. `bits` masks its bytes. */
@inline
function skeletonNumber(name: u64): i32 {
  let slot = slotOf(name);
  while (true) {
    const there = load<u64>(slots + (<usize>slot << 4));
    if (there === name) return load<i32>(slots + (<usize>slot << 4), 8);
    if (there === 0) return -1;
    slot = (slot + 1) & (SLOTS - 1);
  }
  return -1;
}

/** Letters, digits, `-`, `_`, `:` and `.`: what attribute names are made of. */
@inline
function isPlainName(byte: i32): bool {
  const lower = byte | 0x20;
  return (lower >= 0x61 && lower <= 0x7a) || (byte >= 0x2d && byte <= 0x3a && byte !== 0x2f) || byte === 0x5f;
}

/** Bytes past the end may be read by a vector, never used. */
const PADDING: i32 = 128;

export class PageWindow {
  at: usize = 0;
  size: i32 = 0;

  get(index: i32): i32 {
    return load<u8>(this.at + <usize>index);
  }

  find(byte: i32, from: i32, end: i32): i32 {
    const wanted = i8x16.splat(<i8>byte);
    const start = this.at + <usize>from;
    const last = this.at + <usize>end;
    let at = start;
    while (at < last) {
      const mask = i8x16.bitmask(i8x16.eq(v128.load(at), wanted));
      if (mask !== 0) {
        const found = from + <i32>(at - start) + ctz(mask);
        return found < end ? found : end;
      }
      at += 16;
    }
    return end;
  }

  tag: i32 = -1;
  tagEnd: i32 = 0;
  isEndTag: bool = false;

  /**
   * See `src/insert/machine/memory.ts`. The place is before the next thing that is no ordinary tag. If that is a plain
   * tag of the skeleton, `tag` is its number, and it was read to `tagEnd`; otherwise `tag` is -1, and the tokenizer
   * is to look.
   */
  skipOrdinary(from: i32, end: i32): i32 {
    const start = this.at;
    const last = start + <usize>end;
    const lt = i8x16.splat(0x3c);
    const gt = i8x16.splat(0x3e);
    const slash = i8x16.splat(0x2f);
    const space = i8x16.splat(0x20);
    const double = i8x16.splat(0x22);
    const single = i8x16.splat(0x27);
    const equals = i8x16.splat(0x3d);
    this.tag = -1;
    // The places of `<` in 64 bytes at a time. Tags are looked at one by one from them, so that the processor can begin
    // with the next while it is not through with this one; those inside a tag that was read are passed.
    let at = start + <usize>from;
    let block64 = at;
    let places: u64 = 0;
    let isFirst = true;
    while (true) {
      if (places === 0) {
        if (!isFirst) block64 += 64;
        // A long tag may have gone past whole blocks.
        if (at > block64) block64 = at;
        isFirst = false;
        if (block64 >= last) return end;
        places = placesOf(block64, lt);
        if (places === 0) continue;
      }
      const tag = block64 + <usize>ctz(places);
      places &= places - 1;
      if (tag >= last) return end;
      if (tag < at) continue;
      at = tag;
      const isEnd = <usize>(load<u8>(at, 1) === 0x2f);
      const name = at + 1 + isEnd;
      const letter = (<i32>load<u8>(name) | 0x20) - 0x61;
      if (<u32>letter >= 26) return <i32>(tag - start);
      // The name ends at white space (or a control character, which no name here has), `/` or `>`.
      const block = v128.load(name);
      let mask = i8x16.bitmask(
        v128.or(i8x16.le_u(block, space), v128.or(i8x16.eq(block, slash), i8x16.eq(block, gt))),
      );
      if (mask === 0) return <i32>(tag - start);
      const length = ctz(mask);
      let number = -1;
      if (((load<i32>(lengths + (<usize>letter << 2)) >> length) & 1) !== 0) {
        const bits: u64 = length >= 8 ? ~(<u64>0) : ((<u64>1) << (<u64>(length << 3))) - 1;
        number = skeletonNumber((load<u64>(name) | 0x2020202020202020) & bits);
        // Longer than the eight bytes that were compared.
        if (number >= 0 && length > 8) return <i32>(tag - start);
      }
      at = name + <usize>length;
      if (load<u8>(at) !== 0x3e) {
        // Attributes: from here, or from the last closing quote, to the next `>`, quote or `=`.
        let hasEquals = false;
        let isOpen = true;
        let base = at;
        mask = structure(v128.load(at), gt, double, single, equals);
        while (isOpen) {
          while (mask === 0) {
            base += 16;
            if (base >= last) return <i32>(tag - start);
            mask = structure(v128.load(base), gt, double, single, equals);
          }
          at = base + <usize>ctz(mask);
          if (at >= last) return <i32>(tag - start);
          mask &= mask - 1;
          const byte: i32 = load<u8>(at);
          if (byte === 0x3e) isOpen = false;
          else if (byte === 0x3d) {
            if (hasEquals) return <i32>(tag - start);
            hasEquals = true;
          } else {
            if (!hasEquals || load<u8>(at - 1) !== 0x3d || !isPlainName(load<u8>(at - 2))) return <i32>(tag - start);
            // The closing quote.
            const quote = byte === 0x22 ? double : single;
            at++;
            let close = i8x16.bitmask(i8x16.eq(v128.load(at), quote));
            while (close === 0) {
              at += 16;
              if (at >= last) return <i32>(tag - start);
              close = i8x16.bitmask(i8x16.eq(v128.load(at), quote));
            }
            at += <usize>ctz(close) + 1;
            if (at > last) return <i32>(tag - start);
            hasEquals = false;
            base = at;
            mask = structure(v128.load(base), gt, double, single, equals);
          }
        }
      }
      if (at >= last) return <i32>(tag - start);
      at++;
      if (number >= 0) {
        // Foreign elements may close themselves; that is for the tokenizer to see.
        if (number === Tag.Svg || number === Tag.Math) return <i32>(tag - start);
        this.tag = number;
        this.tagEnd = <i32>(at - start);
        this.tagNameEnd = <i32>(name + <usize>length - start);
        this.isEndTag = isEnd !== 0;
        return <i32>(tag - start);
      }
    }
    return end;
  }

  tagNameEnd: i32 = 0;
  low: i32 = 0;
  high: i32 = 0;

  nameEnd(from: i32, end: i32): i32 {
    const start = this.at + <usize>from;
    const last = this.at + <usize>end;
    let at = start;
    let low = 0;
    let high = 0;
    while (at < last) {
      let byte: i32 = load<u8>(at);
      if (byte < 0x5b) {
        if (byte >= 0x41) byte |= 0x20;
        else if (byte === 0x3e || byte === 0x2f || isSpace(byte)) break;
      }
      const count = <i32>(at - start);
      if (count < 4) low = (low << 8) | byte;
      else if (count < 8) high = (high << 8) | byte;
      at++;
    }
    this.low = low;
    this.high = high;
    return from + <i32>(at - start);
  }

  attributeNameEnd(from: i32, end: i32): i32 {
    const start = this.at + <usize>from;
    const last = this.at + <usize>end;
    let at = start;
    while (at < last) {
      const byte: i32 = load<u8>(at);
      if (byte <= 0x3e && (byte === 0x3e || byte === 0x3d || byte === 0x2f || isSpace(byte))) break;
      at++;
    }
    return from + <i32>(at - start);
  }

  unquotedEnd(from: i32, end: i32): i32 {
    const start = this.at + <usize>from;
    const last = this.at + <usize>end;
    let at = start;
    while (at < last) {
      const byte: i32 = load<u8>(at);
      if (byte <= 0x3e && (byte === 0x3e || isSpace(byte))) break;
      at++;
    }
    return from + <i32>(at - start);
  }

  skipSpace(from: i32, end: i32): i32 {
    let i = from;
    while (i < end) {
      if (!isSpace(load<u8>(this.at + <usize>i))) return i;
      i++;
    }
    return end;
  }

  /** Makes room for `size` bytes, keeping the first `kept`. */
  reserve(size: i32, kept: i32): void {
    if (size + PADDING <= this.size) return;
    const grown = max(size + PADDING, this.size * 2);
    const at = heap.alloc(<usize>grown);
    if (kept > 0) memory.copy(at, this.at, <usize>kept);
    if (this.at !== 0) heap.free(this.at);
    this.at = at;
    this.size = grown;
  }
}

@inline
function isSpace(byte: i32): bool {
  return byte === 0x20 || byte === 0x0a || byte === 0x0d || byte === 0x09 || byte === 0x0c;
}

/** A bit for each of 64 bytes that is the wanted one. */
@inline
function placesOf(at: usize, wanted: v128): u64 {
  const a = <u64>(<u32>i8x16.bitmask(i8x16.eq(v128.load(at), wanted)));
  const b = <u64>(<u32>i8x16.bitmask(i8x16.eq(v128.load(at, 16), wanted)));
  const c = <u64>(<u32>i8x16.bitmask(i8x16.eq(v128.load(at, 32), wanted)));
  const d = <u64>(<u32>i8x16.bitmask(i8x16.eq(v128.load(at, 48), wanted)));
  return a | (b << 16) | (c << 32) | (d << 48);
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
