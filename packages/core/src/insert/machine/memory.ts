/**
 * The memory of the page machine, as it is in JavaScript. The WebAssembly build takes its own file of the same shape
 * (`packages/core/assembly/memory.ts`); everything else in this folder is compiled from the same source to both.
 */

/** A growing array of 32-bit integers. */
export class Ints {
  #items: Int32Array;

  constructor(length: number) {
    this.#items = new Int32Array(length);
  }

  get length(): number {
    return this.#items.length;
  }

  get(index: number): number {
    return this.#items[index]!;
  }

  set(index: number, value: number): void {
    this.#items[index] = value;
  }

  /** Moves `count` items from `from` to `to`; the ranges may overlap. */
  move(to: number, from: number, count: number): void {
    this.#items.copyWithin(to, from, from + count);
  }

  /** Makes room for at least `length` items. */
  reserve(length: number): void {
    if (length <= this.#items.length) return;
    const grown = new Int32Array(Math.max(length, this.#items.length * 2));
    grown.set(this.#items);
    this.#items = grown;
  }
}

/** A growing array of bytes. */
export class Bytes {
  #items: Uint8Array;

  constructor(length: number) {
    this.#items = new Uint8Array(length);
  }

  get length(): number {
    return this.#items.length;
  }

  get(index: number): number {
    return this.#items[index]!;
  }

  set(index: number, value: number): void {
    this.#items[index] = value;
  }

  move(to: number, from: number, count: number): void {
    this.#items.copyWithin(to, from, from + count);
  }

  reserve(length: number): void {
    if (length <= this.#items.length) return;
    const grown = new Uint8Array(Math.max(length, this.#items.length * 2));
    grown.set(this.#items);
    this.#items = grown;
  }

  /** Copies bytes out of the window. */
  copyFrom(window: PageWindow, from: number, to: number, count: number): void {
    this.#items.set(window.bytes.subarray(from, from + count), to);
  }
}

const EMPTY = new Uint8Array(0);

/** The part of the page that is being looked at. */
export class PageWindow {
  bytes: Uint8Array = EMPTY;

  get(index: number): number {
    return this.bytes[index]!;
  }

  /** The first `byte` in `[from, end)`, or `end`. */
  find(byte: number, from: number, end: number): number {
    const found = this.bytes.indexOf(byte, from);
    return found < 0 || found > end ? end : found;
  }

  /** The first eight bytes of the name that `nameEnd` went over, in lower case, four and four. */
  low: number = 0;
  high: number = 0;

  /** The end of the tag name that begins at `from`: the first white space, `/` or `>`, or `end`. Fills `low` and `high`. */
  nameEnd(from: number, end: number): number {
    const { bytes } = this;
    let low = 0;
    let high = 0;
    let i = from;
    while (i < end) {
      let byte = bytes[i]!;
      if (byte < 0x5b) {
        if (byte >= 0x41) byte |= 0x20;
        else if (byte === 0x3e || byte === 0x2f || isSpace(byte)) break;
      }
      const count = i - from;
      if (count < 4) low = (low << 8) | byte;
      else if (count < 8) high = (high << 8) | byte;
      i++;
    }
    this.low = low;
    this.high = high;
    return i;
  }

  /** The end of the attribute name that goes on at `from`: the first white space, `/`, `>` or `=`, or `end`. */
  attributeNameEnd(from: number, end: number): number {
    const { bytes } = this;
    let i = from;
    while (i < end) {
      const byte = bytes[i]!;
      if (byte <= 0x3e && (byte === 0x3e || byte === 0x3d || byte === 0x2f || isSpace(byte))) break;
      i++;
    }
    return i;
  }

  /** The end of the unquoted value that goes on at `from`: the first white space or `>`, or `end`. */
  unquotedEnd(from: number, end: number): number {
    const { bytes } = this;
    let i = from;
    while (i < end) {
      const byte = bytes[i]!;
      if (byte <= 0x3e && (byte === 0x3e || isSpace(byte))) break;
      i++;
    }
    return i;
  }

  /** The first byte in `[from, end)` that is no ASCII whitespace, or `end`. */
  skipSpace(from: number, end: number): number {
    let i = from;
    while (i < end) {
      if (!isSpace(this.bytes[i]!)) return i;
      i++;
    }
    return end;
  }
}

function isSpace(byte: number): boolean {
  return byte === 0x20 || byte === 0x0a || byte === 0x0d || byte === 0x09 || byte === 0x0c;
}
