import { Bytes, Ints, type PageWindow } from './memory.js';

export const MARKER: number = -1;
const MAX_BYTES = 1 << 20;
const MAX_ENTRIES = 1 << 16;

const STRIDE: number = 6;
const TAG: number = 0;
const UID: number = 1;
/** 1 while the element is on the stack of open elements. */
const OPEN: number = 2;
/** Where the tag's attributes lie in `#bytes`, as they were written, and how long they are. */
const AT: number = 3;
const LENGTH: number = 4;
/** What its tag fits, as `Selection.keepTag` numbers it. */
const KEPT: number = 5;

/** The list of active formatting elements (HTML Standard 13.2.4.3). */
export class FormattingList {
  size: number = 0;
  overflow: boolean = false;
  /** `STRIDE` numbers for each entry, named below. */
  readonly #entries: Ints = new Ints(64 * STRIDE);
  readonly #bytes: Bytes = new Bytes(1024);
  #used: number = 0;

  reset(): void {
    this.size = 0;
    this.#used = 0;
    this.overflow = false;
  }

  tag(index: number): number {
    return this.#entries.get(index * STRIDE + TAG);
  }

  uid(index: number): number {
    return this.#entries.get(index * STRIDE + UID);
  }

  kept(index: number): number {
    return this.#entries.get(index * STRIDE + KEPT);
  }

  isOpen(index: number): boolean {
    return this.#entries.get(index * STRIDE + OPEN) === 1;
  }

  /** Whether an element would have to be opened again before text (13.2.4.3, "reconstruct"). */
  needsReconstruction(): boolean {
    const last = this.size - 1;
    return (
      last >= 0 &&
      this.#entries.get(last * STRIDE + TAG) !== MARKER &&
      this.#entries.get(last * STRIDE + OPEN) === 0
    );
  }

  pushMarker(): void {
    const at = this.size * STRIDE;
    if (at + STRIDE <= this.#entries.length) {
      this.#entries.set(at + TAG, MARKER);
      this.size++;
      return;
    }
    this.#insert(this.size, MARKER, 0, 0, 0, 0);
  }

  clearToMarker(): void {
    while (this.size > 0) {
      this.size--;
      if (this.#entries.get(this.size * STRIDE + TAG) === MARKER) break;
    }
    this.#trim();
  }

  /** The newest entry with this tag after the last marker, or -1. */
  newest(tag: number): number {
    for (let i = this.size - 1; i >= 0 && this.#entries.get(i * STRIDE + TAG) !== MARKER; i--) {
      if (this.#entries.get(i * STRIDE + TAG) === tag) return i;
    }
    return -1;
  }

  /** The entry of an element, or -1. */
  indexOf(uid: number): number {
    for (let i = this.size - 1; i >= 0; i--) {
      if (this.#entries.get(i * STRIDE + UID) === uid && this.#entries.get(i * STRIDE + TAG) !== MARKER)
        return i;
    }
    return -1;
  }

  /** The element has left the stack of open elements. */
  closed(uid: number): void {
    const index = this.indexOf(uid);
    if (index >= 0) this.#entries.set(index * STRIDE + OPEN, 0);
  }

  /** The newest entry's element ends: both it and the entry go, if it is that of the element. */
  dropNewest(uid: number): boolean {
    const last = this.size - 1;
    if (last < 0 || this.uid(last) !== uid || this.tag(last) === MARKER) return false;
    this.size = last;
    this.#trim();
    return true;
  }

  /** The entry's element is another one now, and open. */
  replace(index: number, uid: number): void {
    this.#entries.set(index * STRIDE + UID, uid);
    this.#entries.set(index * STRIDE + OPEN, 1);
  }

  /** Adds an element with the attributes in `[from, to)` of the window; of four equal ones the oldest goes (Noah’s Ark). */
  push(tag: number, uid: number, window: PageWindow, from: number, to: number, kept: number): void {
    const length = to - from;
    this.#reserveBytes(length);
    if (this.overflow) return;
    if (length > 0) this.#bytes.copyFrom(window, from, this.#used, length);
    this.#insert(this.size, tag, uid, this.#used, length, kept);
    this.#used += length;
    let equal = 0;
    for (let i = this.size - 2; i >= 0 && this.#entries.get(i * STRIDE + TAG) !== MARKER; i--) {
      if (this.#entries.get(i * STRIDE + TAG) !== tag) continue;
      // Counted by name first: attributes are compared only where it can matter.
      equal++;
    }
    if (equal < 3) return;
    equal = 0;
    let oldest = -1;
    for (let i = this.size - 2; i >= 0 && this.#entries.get(i * STRIDE + TAG) !== MARKER; i--) {
      if (this.#entries.get(i * STRIDE + TAG) === tag && this.#sameAttributes(i, this.size - 1)) {
        equal++;
        oldest = i;
      }
    }
    if (equal >= 3) this.remove(oldest);
  }

  /** Adds a copy of an entry, with another element, at `to`. */
  copyTo(index: number, to: number, uid: number): void {
    this.#insert(
      to,
      this.#entries.get(index * STRIDE + TAG),
      uid,
      this.#entries.get(index * STRIDE + AT),
      this.#entries.get(index * STRIDE + LENGTH),
      this.#entries.get(index * STRIDE + KEPT),
    );
  }

  remove(index: number): void {
    const after = this.size - index - 1;
    if (after > 0) this.#entries.move(index * STRIDE, (index + 1) * STRIDE, after * STRIDE);
    this.size--;
    this.#trim();
  }

  #insert(to: number, tag: number, uid: number, at: number, length: number, kept: number): void {
    const size = this.size + 1;
    if (size > MAX_ENTRIES) {
      this.overflow = true;
      return;
    }
    if (size * STRIDE > this.#entries.length) this.#entries.reserve(size * STRIDE);
    const after = this.size - to;
    if (after > 0) this.#entries.move((to + 1) * STRIDE, to * STRIDE, after * STRIDE);
    this.#entries.set(to * STRIDE + TAG, tag);
    this.#entries.set(to * STRIDE + UID, uid);
    this.#entries.set(to * STRIDE + OPEN, 1);
    this.#entries.set(to * STRIDE + AT, at);
    this.#entries.set(to * STRIDE + LENGTH, length);
    this.#entries.set(to * STRIDE + KEPT, kept);
    this.size = size;
  }

  /** Bytes behind those of the entries are free again. */
  #trim(): void {
    if (this.size === 0) this.#used = 0;
  }

  #reserveBytes(length: number): void {
    if (this.#used + length <= this.#bytes.length) return;
    this.#compact();
    if (this.#used + length > MAX_BYTES) {
      this.overflow = true;
      return;
    }
    this.#bytes.reserve(this.#used + length);
  }

  /** Moves the bytes of the entries together. They lie in the order of their pushing, which copies may have changed. */
  #compact(): void {
    let used = 0;
    let from = -1;
    for (;;) {
      // The entry whose bytes lie next.
      let next = -1;
      for (let i = 0; i < this.size; i++) {
        const at = this.#entries.get(i * STRIDE + AT);
        if (
          this.#entries.get(i * STRIDE + TAG) !== MARKER &&
          at > from &&
          (next < 0 || at < this.#entries.get(next * STRIDE + AT))
        )
          next = i;
      }
      if (next < 0) break;
      from = this.#entries.get(next * STRIDE + AT);
      const length = this.#entries.get(next * STRIDE + LENGTH);
      if (length > 0) this.#bytes.move(used, from, length);
      for (let i = 0; i < this.size; i++)
        if (this.#entries.get(i * STRIDE + AT) === from) this.#entries.set(i * STRIDE + AT, used);
      used += length;
    }
    this.#used = used;
  }

  /** Whether two tags have the same attributes with the same values, in any order (as they are written). */
  #sameAttributes(a: number, b: number): boolean {
    return this.#contains(a, b) && this.#contains(b, a);
  }

  #contains(outer: number, inner: number): boolean {
    const end = this.#entries.get(inner * STRIDE + AT) + this.#entries.get(inner * STRIDE + LENGTH);
    let at = this.#skip(this.#entries.get(inner * STRIDE + AT), end);
    while (at < end) {
      const nameEnd = this.#nameEnd(at, end);
      if (!this.#hasSame(outer, at, nameEnd, end)) return false;
      at = this.#skip(this.#valueEnd(nameEnd, end), end);
    }
    return true;
  }

  /** Whether the attribute at `name` has its like, the first of that name, in the entry `outer`. */
  #hasSame(outer: number, name: number, nameEnd: number, end: number): boolean {
    const outerEnd = this.#entries.get(outer * STRIDE + AT) + this.#entries.get(outer * STRIDE + LENGTH);
    let at = this.#skip(this.#entries.get(outer * STRIDE + AT), outerEnd);
    while (at < outerEnd) {
      const otherEnd = this.#nameEnd(at, outerEnd);
      if (this.#same(at, otherEnd, name, nameEnd, true)) {
        const from = this.#valueFrom(otherEnd, outerEnd);
        const to = this.#valueTo(otherEnd, outerEnd);
        const wantedFrom = this.#valueFrom(nameEnd, end);
        const wantedTo = this.#valueTo(nameEnd, end);
        return this.#same(from, to, wantedFrom, wantedTo, false);
      }
      at = this.#skip(this.#valueEnd(otherEnd, outerEnd), outerEnd);
    }
    return false;
  }

  #same(from: number, to: number, otherFrom: number, otherTo: number, foldCase: boolean): boolean {
    if (to - from !== otherTo - otherFrom) return false;
    for (let i = 0; i < to - from; i++) {
      let a = this.#bytes.get(from + i);
      let b = this.#bytes.get(otherFrom + i);
      if (foldCase && a >= 0x41 && a <= 0x5a) a |= 0x20;
      if (foldCase && b >= 0x41 && b <= 0x5a) b |= 0x20;
      if (a !== b) return false;
    }
    return true;
  }

  #skip(at: number, end: number): number {
    while (at < end && (isSpace(this.#bytes.get(at)) || this.#bytes.get(at) === 0x2f)) at++;
    return at;
  }

  #nameEnd(at: number, end: number): number {
    at++;
    while (at < end) {
      const byte = this.#bytes.get(at);
      if (isSpace(byte) || byte === 0x2f || byte === 0x3d) break;
      at++;
    }
    return at;
  }

  /** Where the value begins, its quote not counted; `end` without a value. */
  #valueFrom(nameEnd: number, end: number): number {
    let at = nameEnd;
    while (at < end && isSpace(this.#bytes.get(at))) at++;
    if (at >= end || this.#bytes.get(at) !== 0x3d) return nameEnd;
    at++;
    while (at < end && isSpace(this.#bytes.get(at))) at++;
    if (at >= end) return end;
    const byte = this.#bytes.get(at);
    return byte === 0x22 || byte === 0x27 ? at + 1 : at;
  }

  #valueTo(nameEnd: number, end: number): number {
    const from = this.#valueFrom(nameEnd, end);
    if (from === nameEnd) return nameEnd;
    const before = this.#bytes.get(from - 1);
    const quoted = before === 0x22 || before === 0x27;
    let at = from;
    while (at < end) {
      const byte = this.#bytes.get(at);
      if (quoted ? byte === before : isSpace(byte)) break;
      at++;
    }
    return at;
  }

  #valueEnd(nameEnd: number, end: number): number {
    const from = this.#valueFrom(nameEnd, end);
    if (from === nameEnd) return nameEnd;
    const to = this.#valueTo(nameEnd, end);
    const before = this.#bytes.get(from - 1);
    return before === 0x22 || before === 0x27 ? to + 1 : to;
  }
}

function isSpace(byte: number): boolean {
  return byte === 0x20 || byte === 0x0a || byte === 0x0d || byte === 0x09 || byte === 0x0c;
}
