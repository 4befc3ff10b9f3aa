import { passTable } from './fast-path-table';
import { LOOK, attributesEnd, isForeign, kindOf, numberAt, plainForeignLength, tagEndAt } from '../skeleton';
import { Machine } from './state';

/** The bytes that are looked for, each sixteen times: `<`, `>`, `"`, `'`, `=`, space, `/`. */
const wanted = heap.alloc(7 * 16);
memory.fill(wanted, 0x3c, 16);
memory.fill(wanted + 16, 0x3e, 16);
memory.fill(wanted + 32, 0x22, 16);
memory.fill(wanted + 48, 0x27, 16);
memory.fill(wanted + 64, 0x3d, 16);
memory.fill(wanted + 80, 0x20, 16);
memory.fill(wanted + 96, 0x2f, 16);

/**
 * See `src/insert/machine/pass.ts`. 64 bytes are looked at together: a bit for each byte says whether it is one of the
 * characters that tags are made of, and sums of these numbers say which bytes lie in tags and which in quotes. Where
 * that comes out as plain tags, only the names at each `<` are looked at; where not, tags are read one by one.
 */
export function passOrdinary(m: Machine): bool {
  // From memory, so that they stay in registers: the compiler would make constants anew for each block.
  const ltByte = v128.load(wanted);
  const gtByte = v128.load(wanted, 16);
  const quoteByte = v128.load(wanted, 32);
  const apostropheByte = v128.load(wanted, 48);
  const equalsByte = v128.load(wanted, 64);
  const spaceByte = v128.load(wanted, 80);
  const slashByte = v128.load(wanted, 96);
  const start = m.window.at;
  const last = start + <usize>m.end;
  /** Before it everything is passed; it lies outside of tags, or in one that has been found to be ordinary. */
  let at = start + <usize>m.at;
  /** Where the tag that the last bytes belong to began. */
  let open: usize = at;
  let inTag: u64 = 0;
  let inQuotes: u64 = 0;
  let inApostrophes: u64 = 0;
  let equalsBefore: u64 = 0;
  let nameBefore: u64 = 0;
  while (at + 64 <= last) {
    const a = v128.load(at);
    const b = v128.load(at, 16);
    const c = v128.load(at, 32);
    const d = v128.load(at, 48);
    const lt = places(a, b, c, d, ltByte);
    const gt = places(a, b, c, d, gtByte);
    if ((lt | inTag) === 0) {
      at += 64;
      continue;
    }
    const quotes = places(a, b, c, d, quoteByte);
    const apostrophes = places(a, b, c, d, apostropheByte);
    const equals = places(a, b, c, d, equalsByte);
    const spaces = places(a, b, c, d, spaceByte);
    // Beyond `/` there are no characters that end an attribute's name but `=` and `>`.
    const names = above(a, b, c, d, slashByte);
    // Each `<` takes from the number what the next `>` gives back: the bits between are in tags.
    const tags = gt - lt - inTag;
    let odd = (lt & ~tags) | (gt & tags);
    const afterEquals = (equals << 1) | equalsBefore;
    const opening = quotes & tags & afterEquals;
    const closing = quotes & tags & ~afterEquals;
    const quoted = closing - opening - inQuotes;
    odd |= (opening & ~quoted) | (closing & quoted);
    // The same with apostrophes; those in quotes mean nothing, and quotes in apostrophes come out as odd.
    const single = apostrophes & tags & ~quoted;
    const openingSingle = single & afterEquals;
    const closingSingle = single & ~afterEquals;
    const quotedSingle = closingSingle - openingSingle - inApostrophes;
    odd |= (openingSingle & ~quotedSingle) | (closingSingle & quotedSingle);
    const values = quoted | quotedSingle;
    odd |= gt & values;
    const assigning = equals & tags & ~values;
    odd |= ((assigning << 1) | equalsBefore) ^ (opening | openingSingle);
    odd |= assigning & ~((names << 1) | nameBefore);
    // The names of the tags: what stands together with the byte after `<`.
    const together = ~(spaces | gt);
    const tagNames = together & ~(together + (lt << 1));
    odd |= assigning & tagNames;
    if (odd === 0) {
      let left = lt;
      let isWhole = true;
      while (left !== 0) {
        const tag = at + <usize>ctz(left);
        left &= left - 1;
        const word = load<i32>(tag, 1);
        const isEnd = (word & 0xff) === 0x2f;
        const name = word >>> (<i32>isEnd << 3);
        const kind = kindOf(name);
        if (kind === 0) continue;
        let number = kind - 1;
        const third = (name >>> 16) & 0xff;
        if (kind === LOOK || (third !== 0x3e && third !== 0x20)) {
          number = numberAt(tag + 1 + <usize>isEnd);
          if (number === -1) continue;
          if (number === -2) return leave(m, tag);
        }
        if (left === 0 && <i64>tags < 0) {
          // It goes on after these bytes.
          const end = tagEndAt(m, tag, last);
          if (end === 0) return leave(m, tag);
          if (!passTable(m, number, isEnd)) return read(m, tag, end, number, isEnd);
          at = end;
          inTag = 0;
          inQuotes = 0;
          inApostrophes = 0;
          equalsBefore = 0;
          nameBefore = 0;
          isWhole = false;
        } else if (!passTable(m, number, isEnd)) {
          const end = tagEndAt(m, tag, last);
          return end === 0 ? leave(m, tag) : read(m, tag, end, number, isEnd);
        }
      }
      if (!isWhole) continue;
      if (lt !== 0) open = at + 63 - <usize>clz(lt);
      inTag = tags >>> 63;
      if (inTag !== 0 && <i64>(tagNames | lt) < 0) {
        // Its name may go on after these bytes.
        if (open > at) {
          at = open;
          inTag = 0;
          inQuotes = 0;
          inApostrophes = 0;
          equalsBefore = 0;
          nameBefore = 0;
          continue;
        }
      } else {
        inQuotes = quoted >>> 63;
        inApostrophes = quotedSingle >>> 63;
        equalsBefore = assigning >>> 63;
        nameBefore = names >>> 63;
        at += 64;
        continue;
      }
    }
    const next = one(m, inTag !== 0 && odd !== 0 ? open : at, at + 64, last);
    if (next === 0) return m.isRead;
    at = next;
    inTag = 0;
    inQuotes = 0;
    inApostrophes = 0;
    equalsBefore = 0;
    nameBefore = 0;
  }
  const next = one(m, inTag !== 0 ? open : at, last, last);
  if (next === 0) return m.isRead;
  m.at = m.end;
  return false;
}

/** Passes the tags that begin before `limit` one by one. @returns where that came to, or 0 when it was left */
function one(m: Machine, from: usize, limit: usize, last: usize): usize {
  const wanted = i8x16.splat(0x3c);
  let at = from;
  while (true) {
    let mask = i8x16.bitmask(i8x16.eq(v128.load(at), wanted));
    while (mask === 0) {
      at += 16;
      if (at >= limit) return limit;
      mask = i8x16.bitmask(i8x16.eq(v128.load(at), wanted));
    }
    at += <usize>ctz(mask);
    if (at >= limit) return limit;
    const isEnd = load<u8>(at, 1) === 0x2f;
    const number = numberAt(at + 1 + <usize>isEnd);
    const end: usize = number === -2 ? 0 : tagEndAt(m, at, last);
    if (end === 0) {
      leave(m, at);
      return 0;
    }
    if (number >= 0 && !passTable(m, number, isEnd)) {
      read(m, at, end, number, isEnd);
      return 0;
    }
    at = end;
    if (at >= limit) return at;
  }
  return 0;
}

/** See `src/insert/machine/pass.ts`. */
export function passForeign(m: Machine): void {
  const wanted = i8x16.splat(0x3c);
  const start = m.window.at;
  const last = start + <usize>m.end;
  let at = start + <usize>m.at;
  while (true) {
    at = find(at, last, wanted);
    m.at = <i32>(at - start);
    if (at >= last) return;
    const length = plainForeignLength(at + 1);
    if (length === 0) return;
    const end = attributesEnd(at + 1 + <usize>length, last);
    if (end === 0) return;
    if (load<u8>(end - 2) === 0x2f) {
      at = end;
      continue;
    }
    // One without children, whose end tag comes next.
    const next = find(end, last, wanted);
    const close = next + 2 + <usize>length;
    if (close >= last || load<u8>(next, 1) !== 0x2f || load<u8>(close) !== 0x3e) return;
    for (let i = 0; i < length; i++)
      if (load<u8>(at + 1 + <usize>i) !== load<u8>(next + 2 + <usize>i)) return;
    at = close + 1;
  }
}

/** The first wanted byte at or after `from`, or `last`. */
@inline
function find(from: usize, last: usize, wanted: v128): usize {
  let at = from;
  while (at < last) {
    const mask = i8x16.bitmask(i8x16.eq(v128.load(at), wanted));
    if (mask !== 0) return min(at + <usize>ctz(mask), last);
    at += 16;
  }
  return last;
}

/** See `src/insert/machine/pass.ts`. */
export function plainTagEnd(m: Machine, nameEnd: i32): i32 {
  const start = m.window.at;
  const end = attributesEnd(start + <usize>nameEnd, start + <usize>m.end);
  return end === 0 ? 0 : <i32>(end - start);
}

/** The tokenizer is to go on here. */
function leave(m: Machine, tag: usize): bool {
  m.at = <i32>(tag - m.window.at);
  m.isRead = false;
  return false;
}

/** A tag was read that is to be processed. */
function read(m: Machine, tag: usize, end: usize, number: i32, isEnd: bool): bool {
  if (isForeign(number)) return leave(m, tag);
  m.at = <i32>(tag - m.window.at);
  m.tagStart = m.at;
  m.tagEnd = <i32>(end - m.window.at);
  m.tag = number;
  m.isEndTag = isEnd;
  m.isRead = true;
  return true;
}

/** A bit for each of 64 bytes that is the wanted one. */
@inline
function places(a: v128, b: v128, c: v128, d: v128, wanted: v128): u64 {
  return bits(i8x16.eq(a, wanted), i8x16.eq(b, wanted), i8x16.eq(c, wanted), i8x16.eq(d, wanted));
}

/** A bit for each of 64 bytes that is ASCII and greater. */
@inline
function above(a: v128, b: v128, c: v128, d: v128, least: v128): u64 {
  return bits(i8x16.gt_s(a, least), i8x16.gt_s(b, least), i8x16.gt_s(c, least), i8x16.gt_s(d, least));
}

@inline
function bits(a: v128, b: v128, c: v128, d: v128): u64 {
  return (
    <u64>(<u32>i8x16.bitmask(a)) |
    (<u64>(<u32>i8x16.bitmask(b)) << 16) |
    (<u64>(<u32>i8x16.bitmask(c)) << 32) |
    (<u64>(<u32>i8x16.bitmask(d)) << 48)
  );
}
