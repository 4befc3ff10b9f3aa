import { EncodingSniffer } from './encoding.js';
import { HEAD_ELEMENTS } from './names.js';
import { PagePlaces, type PlaceSink } from './page-places.js';
import { reasonWords, type LeftOutReason } from './reasons.js';
import { Tokenizer } from './tokenizer.js';
import {
  isAnchor,
  placementKey,
  type AnchorPlacement,
  type InsertOptions,
  type InsertOutcome,
  type InsertPart,
  type NamedPlacement,
} from './types.js';

interface PreparedPart {
  readonly index: number;
  readonly key: string;
  readonly bytes: Uint8Array;
  readonly isAscii: boolean;
  /** Its first tag is one that the parser puts into the head by itself. */
  readonly startsInHead: boolean;
}

/** Parts encoded and grouped by placement: made once per page plan and shared by all its page loads. */
export interface PreparedParts {
  readonly count: number;
  readonly keys: readonly string[];
  readonly placements: ReadonlyMap<string, readonly PreparedPart[]>;
  readonly anchors: ReadonlySet<string>;
  readonly isAscii: boolean;
}

const encoder = new TextEncoder();
const HEAD_TAG = encoder.encode('<head>');
const BODY_TAG = encoder.encode('<body>');

/** Prepares parts for any number of `PageInserter`s. Parts of one placement keep their order. */
export function prepareParts(parts: readonly InsertPart[]): PreparedParts {
  const placements = new Map<string, PreparedPart[]>();
  const anchors = new Set<string>();
  let isAscii = true;
  parts.forEach((part, index) => {
    const bytes = encoder.encode(part.code);
    const partIsAscii = bytes.every((byte) => byte < 0x80);
    isAscii &&= partIsAscii;
    const firstTag = /^\s*<([a-z]+)/i.exec(part.code)?.[1]?.toLowerCase();
    const startsInHead = firstTag !== undefined && HEAD_ELEMENTS.has(firstTag);
    const prepared = { index, key: part.key, bytes, isAscii: partIsAscii, startsInHead };
    const key = placementKey(part.placement);
    const group = placements.get(key);
    if (group) group.push(prepared);
    else placements.set(key, [prepared]);
    if (isAnchor(part.placement)) anchors.add(part.placement.anchor);
  });
  return { count: parts.length, keys: parts.map((part) => part.key), placements, anchors, isAscii };
}

/**
 * Puts parts into a page that arrives in chunks. What comes out does not depend on how the page was cut; it consists
 * of slices of the chunks and of the parts' bytes.
 *
 * @example
 * const inserter = new PageInserter([{ key: 'hello', placement: 'body-end', code: '<script>hi()</script>' }]);
 * const out = [...inserter.write(chunk), ...inserter.end()];
 */
export class PageInserter {
  readonly #parts: PreparedParts;
  readonly #sniffer: EncodingSniffer;
  readonly #tokenizer = new Tokenizer();
  readonly #places: PagePlaces;
  readonly #outcomes: (InsertOutcome | undefined)[];
  #pending: number;
  #isUtf8 = true;
  #phase: 'sniffing' | 'inserting' | 'passing' = 'sniffing';
  /** Absolute offset of the first byte that has not been given out. */
  #given = 0;
  #bodyImpliedAt = -1;
  #headWritten = false;

  constructor(parts: readonly InsertPart[] | PreparedParts, options: InsertOptions = {}) {
    this.#parts = 'placements' in parts ? parts : prepareParts(parts);
    this.#sniffer = new EncodingSniffer(options.encoding, !this.#parts.isAscii);
    this.#outcomes = Array.from({ length: this.#parts.count }, () => undefined);
    this.#pending = this.#parts.count;
    this.#places = new PagePlaces(this.#tokenizer, this.#sink(), this.#parts.anchors);
    if (this.#pending === 0) this.#phase = 'passing';
  }

  /** Where each part went, in the order given; complete after `end`. */
  get outcomes(): readonly InsertOutcome[] {
    return this.#outcomes.map((outcome, index) => outcome ?? leftOut(this.#parts.keys[index]!, 'unfinished'));
  }

  /** The bytes taken but not given out yet. After an error these, unchanged, continue the page. */
  held(): Uint8Array {
    if (this.#phase === 'sniffing') return this.#sniffer.collected();
    const { buffer, base } = this.#tokenizer;
    return buffer.subarray(this.#given - base);
  }

  /** Takes a chunk and gives out what is decided. The chunk must not be changed afterwards. */
  write(chunk: Uint8Array): Uint8Array[] {
    if (this.#phase === 'passing') return [chunk];
    return this.#advance(chunk, false);
  }

  /** Ends the page and gives out the rest. */
  end(): Uint8Array[] {
    if (this.#phase === 'passing') return [];
    const out = this.#advance(new Uint8Array(0), true);
    for (const [key, group] of this.#parts.placements) {
      for (const part of group) {
        const isAnchorKey = key.includes('#');
        if (!this.#outcomes[part.index])
          this.#settle(part, leftOut(part.key, isAnchorKey ? 'no-anchor' : 'unfinished'));
      }
    }
    return out;
  }

  #advance(chunk: Uint8Array, ended: boolean): Uint8Array[] {
    this.#out = [];
    if (!this.#take(chunk, ended)) return [];
    if (this.#phase === 'inserting') this.#insert(ended);
    const { buffer, base, position } = this.#tokenizer;
    const decided = ended || this.#pending === 0 ? base + buffer.length : position;
    this.#copy(decided);
    if (this.#pending === 0) this.#phase = 'passing';
    this.#given = decided;
    return this.#out;
  }

  /** Feeds the tokenizer; false while the encoding is not known. */
  #take(chunk: Uint8Array, ended: boolean): boolean {
    if (this.#phase !== 'sniffing') {
      this.#tokenizer.push(chunk);
      if (ended) this.#tokenizer.finish();
      this.#outFrom = this.#given;
      return true;
    }
    const sniffed = this.#sniffer.take(chunk, ended);
    if (!sniffed) return false;
    this.#tokenizer.push(sniffed.bytes);
    if (ended) this.#tokenizer.finish();
    this.#phase = 'inserting';
    this.#outFrom = 0;
    this.#isUtf8 = sniffed.encoding === 'utf-8';
    if (sniffed.encoding === 'unsupported') {
      for (const group of this.#parts.placements.values()) this.#leaveOutAll(group, 'encoding');
    } else if (sniffed.bomLength > 0) this.#tokenizer.skip(sniffed.bomLength);
    return true;
  }

  #insert(ended: boolean): void {
    while (this.#pending > 0) {
      const token = this.#tokenizer.next();
      if (!token) break;
      this.#places.token(token);
    }
    if (ended && this.#pending > 0) this.#places.end(this.#tokenizer.base + this.#tokenizer.buffer.length);
  }

  /** What the current call gives out, and how far that reaches. Kept apart from `#given` so that a failed call gives out nothing. */
  #out: Uint8Array[] = [];
  #outFrom = 0;

  #copy(to: number): void {
    const { buffer, base } = this.#tokenizer;
    if (to > this.#outFrom) this.#out.push(buffer.subarray(this.#outFrom - base, to - base));
    this.#outFrom = to;
  }

  #sink(): PlaceSink {
    return {
      place: (placement, offset, implied) => this.#place(placement, offset, implied),
      anchor: (anchor, side, offset) => this.#write(this.#group({ anchor, side }), offset),
      leaveOut: (placement, reason) => this.#leaveOutAll(this.#group(placement), reason),
      refuseAnchor: (anchor, side) => this.#leaveOutAll(this.#group({ anchor, side }), 'anchor-refused'),
    };
  }

  #place(placement: NamedPlacement, offset: number, implied: 'head' | 'body' | undefined): void {
    if (implied === 'body') this.#bodyImpliedAt = offset;
    const group = this.#group(placement);
    const first = group.find((part) => this.#fits(part));
    if (implied === 'head' && first && !first.startsInHead && !this.#headWritten)
      this.#write(group, offset, HEAD_TAG);
    else this.#write(group, offset);
    if (implied === 'head' && first) this.#headWritten = true;
  }

  #write(group: readonly PreparedPart[], offset: number, tag?: Uint8Array): void {
    const open = group.filter((part) => !this.#outcomes[part.index]);
    const fitting = open.filter((part) => this.#fits(part));
    this.#leaveOutAll(
      open.filter((part) => !this.#fits(part)),
      'encoding',
    );
    if (fitting.length === 0) return;
    this.#copy(offset);
    if (tag) this.#out.push(tag);
    if (this.#bodyImpliedAt === offset) {
      // Without it a script here would still belong to the head. It never changes the tree: the body begins here.
      this.#out.push(BODY_TAG);
      this.#bodyImpliedAt = -1;
    }
    for (const part of fitting) {
      this.#out.push(part.bytes);
      this.#settle(part, { key: part.key, inserted: true, offset });
    }
  }

  #fits(part: PreparedPart): boolean {
    return this.#isUtf8 || part.isAscii;
  }

  #group(placement: NamedPlacement | AnchorPlacement): readonly PreparedPart[] {
    return this.#parts.placements.get(placementKey(placement)) ?? [];
  }

  #leaveOutAll(group: readonly PreparedPart[], reason: LeftOutReason): void {
    for (const part of group) if (!this.#outcomes[part.index]) this.#settle(part, leftOut(part.key, reason));
  }

  #settle(part: PreparedPart, outcome: InsertOutcome): void {
    this.#outcomes[part.index] = outcome;
    this.#pending--;
  }
}

function leftOut(key: string, reason: LeftOutReason): InsertOutcome {
  return { key, inserted: false, reason, message: reasonWords(reason) };
}
