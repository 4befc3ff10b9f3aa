import { Bytes, Ints, type PageWindow } from './memory.js';
import { Tag, TAG_NAMES } from './tags.js';

const SLOTS = 1024;
/** More different unknown names than this, or longer ones in all, and a page is given up (it is no page). */
const MAX_NAMES = 20_000;
const MAX_BYTES = 1 << 20;

/** Numbers names: known ones by `Tag`, others from `Tag.Unknown` on, for the length of one page. */
export class Names {
  readonly #slots: Ints = new Ints(SLOTS);
  /** Per name: the next one in its slot, where its bytes lie and how many. Index 0 stays free. */
  readonly #next: Ints = new Ints(512);
  readonly #at: Ints = new Ints(512);
  readonly #lengths: Ints = new Ints(512);
  /** Per name: its first four bytes and the next four, packed as `PageWindow.nameEnd` does. */
  readonly #lows: Ints = new Ints(512);
  readonly #highs: Ints = new Ints(512);
  readonly #bytes: Bytes = new Bytes(4096);
  #count: number = 1;
  #used: number = 0;
  #knownBytes: number = 0;
  /** The page brought more names than can be kept. */
  overflow: boolean = false;

  constructor() {
    let from = 0;
    while (from < TAG_NAMES.length) {
      let to = TAG_NAMES.indexOf(' ', from);
      if (to < 0) to = TAG_NAMES.length;
      let low = 0;
      let high = 0;
      for (let i = from; i < to; i++) {
        const byte = TAG_NAMES.charCodeAt(i);
        this.#bytes.set(this.#used + i - from, byte);
        if (i - from < 4) low = (low << 8) | byte;
        else if (i - from < 8) high = (high << 8) | byte;
      }
      this.#add(low, high, to - from);
      from = to + 1;
    }
    this.#knownBytes = this.#used;
  }

  /** Forgets the names of the last page. */
  reset(): void {
    this.overflow = false;
    // The newest of a slot stands first in it.
    for (let at = this.#count - 1; at > Tag.Known; at--)
      this.#slots.set(slotOf(this.#lows.get(at), this.#highs.get(at)), this.#next.get(at));
    this.#count = Tag.Known + 1;
    this.#used = this.#knownBytes;
  }

  /** The number of the name in `[from, to)` of the window, over which `PageWindow.nameEnd` just went. */
  number(window: PageWindow, from: number, to: number): number {
    const length = to - from;
    const low = window.low;
    const high = window.high;
    let at = this.#slots.get(slotOf(low, high));
    while (at !== 0) {
      if (
        this.#lows.get(at) === low &&
        this.#highs.get(at) === high &&
        this.#lengths.get(at) === length &&
        (length <= 8 || this.#equals(window, from, this.#at.get(at), length))
      )
        return at <= Tag.Known ? at - 1 : Tag.Unknown + at - Tag.Known - 1;
      at = this.#next.get(at);
    }
    return this.#learn(window, from, length);
  }

  #learn(window: PageWindow, from: number, length: number): number {
    if (this.#count >= MAX_NAMES || this.#used + length > MAX_BYTES) {
      this.overflow = true;
      return Tag.Unknown;
    }
    this.#bytes.reserve(this.#used + length);
    for (let i = 0; i < length; i++) this.#bytes.set(this.#used + i, lower(window.get(from + i)));
    const at = this.#count;
    this.#add(window.low, window.high, length);
    return Tag.Unknown + at - Tag.Known - 1;
  }

  /** How many bytes at `from` are the known name `tag`, compared without case: all of it, or as many as there are; -1 if not. */
  match(window: PageWindow, from: number, end: number, tag: number): number {
    const length = this.#lengths.get(tag + 1);
    const at = this.#at.get(tag + 1);
    const available = end - from < length ? end - from : length;
    return this.#equals(window, from, at, available) ? available : -1;
  }

  length(tag: number): number {
    return this.#lengths.get(tag + 1);
  }

  #add(low: number, high: number, length: number): void {
    const at = this.#count++;
    const slot = slotOf(low, high);
    this.#next.reserve(at + 1);
    this.#at.reserve(at + 1);
    this.#lengths.reserve(at + 1);
    this.#lows.reserve(at + 1);
    this.#highs.reserve(at + 1);
    this.#lows.set(at, low);
    this.#highs.set(at, high);
    this.#next.set(at, this.#slots.get(slot));
    this.#at.set(at, this.#used);
    this.#lengths.set(at, length);
    this.#slots.set(slot, at);
    this.#used += length;
  }

  #equals(window: PageWindow, from: number, at: number, length: number): boolean {
    for (let i = 0; i < length; i++) {
      if (lower(window.get(from + i)) !== this.#bytes.get(at + i)) return false;
    }
    return true;
  }
}

function slotOf(low: number, high: number): number {
  return (low ^ (low >> 7) ^ (low >> 14) ^ high ^ (high >> 11)) & (SLOTS - 1);
}

function lower(byte: number): number {
  return byte >= 0x41 && byte <= 0x5a ? byte | 0x20 : byte;
}
