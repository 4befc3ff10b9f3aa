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
