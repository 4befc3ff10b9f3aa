/**
 * The machine reads bytes in which ASCII is ASCII. Pages in UTF-16 and ISO-2022-JP are narrowed for it: one byte for
 * each character or code unit, with anything beyond ASCII as one and the same byte. Positions are mapped back.
 */
export interface Transcoder {
  /** The narrowed form of the next bytes. */
  narrow(chunk: Uint8Array): Uint8Array;
  /** The page's offset of a narrowed position. */
  original(position: number): number;
  /** What has to stand around code that is inserted at an offset of the page, so that it is read as ASCII. */
  around(offset: number): { before: Uint8Array; after: Uint8Array };
}

const BEYOND_ASCII = 0xff;
const NOTHING = new Uint8Array(0);

/** A byte stream of UTF-16 without its mark. */
export class Utf16Narrower implements Transcoder {
  readonly #highFirst: boolean;
  readonly #start: number;
  #half: number | undefined;

  constructor(highFirst: boolean, start: number) {
    this.#highFirst = highFirst;
    this.#start = start;
  }

  narrow(chunk: Uint8Array): Uint8Array {
    const out = new Uint8Array((chunk.length + 1) >> 1);
    let count = 0;
    for (const byte of chunk) {
      if (this.#half === undefined) {
        this.#half = byte;
        continue;
      }
      const high = this.#highFirst ? this.#half : byte;
      const low = this.#highFirst ? byte : this.#half;
      out[count++] = high === 0 && low < 0x80 ? low : BEYOND_ASCII;
      this.#half = undefined;
    }
    return out.subarray(0, count);
  }

  original(position: number): number {
    return this.#start + position * 2;
  }

  around(): { before: Uint8Array; after: Uint8Array } {
    return { before: NOTHING, after: NOTHING };
  }
}

const ESC = 0x1b;
/** Sequences after ESC and the state that they begin (Encoding Standard, ISO-2022-JP decoder). */
const STATES: Readonly<Record<string, State>> = {
  '(B': 'ascii',
  '(J': 'roman',
  '(I': 'katakana',
  '$@': 'wide',
  $B: 'wide',
};

type State = 'ascii' | 'roman' | 'katakana' | 'wide';

/** ISO-2022-JP: escape sequences switch between ASCII and sets in which the same bytes mean other characters. */
export class Iso2022JpNarrower implements Transcoder {
  readonly #start: number;
  #state: State = 'ascii';
  #escape: number[] = [ESC, 0x28, 0x42];
  #pending: number[] = [];
  /** Page offsets read and narrowed bytes made so far. */
  #read = 0;
  #made = 0;
  /** Where the difference between both changes: narrowed position, page offset, and the escape in force from there. */
  readonly #steps: { at: number; offset: number; escape: readonly number[] }[] = [
    { at: 0, offset: 0, escape: [ESC, 0x28, 0x42] },
  ];

  constructor(start: number) {
    this.#start = start;
  }

  narrow(chunk: Uint8Array): Uint8Array {
    const out: number[] = [];
    for (const byte of chunk) {
      this.#pending.push(byte);
      this.#take(out);
    }
    return Uint8Array.from(out);
  }

  original(position: number): number {
    const step = this.#stepAt(position);
    return this.#start + step.offset + position - step.at;
  }

  around(offset: number): { before: Uint8Array; after: Uint8Array } {
    const within = offset - this.#start;
    let escape = this.#steps[0]!.escape;
    for (const step of this.#steps) {
      if (step.offset > within) break;
      escape = step.escape;
    }
    if (escape[1] === 0x28 && escape[2] === 0x42) return { before: NOTHING, after: NOTHING };
    return { before: Uint8Array.of(ESC, 0x28, 0x42), after: Uint8Array.from(escape) };
  }

  #stepAt(position: number): { at: number; offset: number } {
    let low = 0;
    let high = this.#steps.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.#steps[middle]!.at <= position) low = middle;
      else high = middle - 1;
    }
    return this.#steps[low]!;
  }

  /** Takes as much of the pending bytes as is one thing. */
  #take(out: number[]): void {
    const [first] = this.#pending;
    if (first === ESC) {
      if (this.#pending.length < 3) return;
      const state = STATES[String.fromCharCode(...this.#pending.slice(1))];
      if (state !== undefined) {
        this.#state = state;
        this.#escape = [...this.#pending];
        this.#used(3);
        return;
      }
    } else if (this.#state === 'wide' && first! >= 0x21 && first! <= 0x7e) {
      if (this.#pending.length < 2) return;
      out.push(BEYOND_ASCII);
      this.#made++;
      this.#used(2);
      return;
    }
    out.push(
      this.#state === 'ascii' || this.#state === 'roman' ? romanAsAscii(this.#state, first!) : beyond(first!),
    );
    this.#made++;
    this.#used(1);
    if (this.#pending.length > 0) this.#take(out);
  }

  #used(count: number): void {
    this.#pending.splice(0, count);
    this.#read += count;
    this.#steps.push({ at: this.#made, offset: this.#read, escape: this.#escape });
    const [before, last] = this.#steps.slice(-2);
    // Only where the difference changes, or the set, is there something to remember.
    if (
      before &&
      last &&
      last.at - before.at === last.offset - before.offset &&
      before.escape === last.escape
    )
      this.#steps.pop();
  }
}

function romanAsAscii(state: State, byte: number): number {
  return byte >= 0x80 || (state === 'roman' && (byte === 0x5c || byte === 0x7e)) ? BEYOND_ASCII : byte;
}

/** Control characters keep their meaning in every set. */
function beyond(byte: number): number {
  return byte < 0x21 ? byte : BEYOND_ASCII;
}

/** The narrower that an encoding needs; undefined where ASCII bytes are ASCII. */
export function narrowerFor(encoding: string | undefined, start: number): Transcoder | undefined {
  if (encoding === 'utf-16le' || encoding === 'utf-16be')
    return new Utf16Narrower(encoding === 'utf-16be', start);
  return encoding === 'iso-2022-jp' ? new Iso2022JpNarrower(start) : undefined;
}
