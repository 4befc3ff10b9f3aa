import { isQuirksDoctype } from './doctype.js';
import { EncodingSniffer, PRESCAN_BYTES, decoderOf, type PageEncoding } from './encoding.js';
import { Anchor } from './machine/place-bits.js';
import { Pairs } from './machine/cdata.js';
import { PlainScanner, type Scanner } from './machine/scanner.js';
import { Query, Event, Status } from './machine/state.js';
import { TAG_NAMES } from './machine/tags.js';
import { narrowerFor, type Transcoder } from './transcoder.js';
import { PageChunks } from './page-chunks.js';
import { prepareParts, type PreparedPart, type PreparedParts } from './prepare.js';
import { noteWords, type LeftOutReason } from './reasons.js';
import {
  LEFT_OUT_REASONS,
  PLACE_BITS,
  SIDES,
  fitsAt,
  isOfBody,
  leftOut,
  type ScanEvent,
} from './scan-event.js';
import { NAMED_PLACEMENTS, type AnchorSide, type NamedPlacement } from './placements.js';
import type { InsertOptions, InsertOutcome, InsertPart } from './types.js';
import { wasmScanner } from './wasm-scanner.js';

const encoder = new TextEncoder();
const HEAD_TAG = encoder.encode('<head>');
const BODY_TAG = encoder.encode('<body>');

/** A page is kept this far for being read again; beyond it all of its elements are followed. */
const KEPT_FOR_ALARM = 1 << 19;

/** Encodings whose trail bytes can look like ASCII letters. */
const PAIRS: ReadonlyMap<string, Pairs> = new Map([
  ['shift_jis', Pairs.ShiftJis],
  ['gbk', Pairs.Wide],
  ['gb18030', Pairs.Wide],
  ['big5', Pairs.Wide],
  ['euc-kr', Pairs.Wide],
]);

/** Bytes that stand before an offset of the page. */
export interface Edit {
  readonly offset: number;
  readonly bytes: Uint8Array;
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
  readonly #plain: boolean;
  readonly #sniffer: EncodingSniffer;
  readonly #chunks = new PageChunks();
  readonly #outcomes: (InsertOutcome | undefined)[];
  #pending: number;
  #phase: 'sniffing' | 'inserting' | 'passing' = 'sniffing';
  #encoding: PageEncoding = { name: undefined, markLength: 0, declarationEnd: undefined };
  #narrower: Transcoder | undefined;
  #scanner: Scanner | undefined;
  /** Chunks that the machine has read, while it may bail out of its fast path. */
  #kept: Uint8Array[] | undefined;
  #keptLength = 0;
  #eventCount = 0;
  /** While the page is read again: how many of its events are known. */
  #knownEvents = 0;
  /** Events at offsets that are still held back. */
  #queue: ScanEvent[] = [];
  #isQuirks: boolean | undefined;
  /** The end tag that was written last, and where. */
  #closed = '';
  #headImpliedAt = -1;
  #bodyImpliedAt = -1;
  /** Parts for the start of the head that go after the encoding's declaration. */
  #afterDeclaration: readonly PreparedPart[] = [];
  readonly #edits: Edit[] = [];
  /** Bytes put in so far. */
  #added = 0;
  /** Offset of the first byte that has not been given out. */
  #given = 0;
  /** What the current call gives out, and how far that reaches: apart from `#given`, so that a failed call gives out nothing. */
  #out: Uint8Array[] = [];
  #outTo = 0;

  constructor(parts: readonly InsertPart[] | PreparedParts, options: InsertOptions = {}) {
    this.#parts = 'placements' in parts ? parts : prepareParts(parts);
    this.#plain = options.plain === true;
    this.#sniffer = new EncodingSniffer(options.encoding);
    this.#outcomes = new Array<undefined>(this.#parts.count).fill(undefined);
    this.#pending = this.#parts.count;
    if (this.#pending === 0) this.#phase = 'passing';
  }

  /** Where each part went, in the order given; complete after `end`. */
  get outcomes(): readonly InsertOutcome[] {
    return this.#outcomes.map((outcome, index) => outcome ?? leftOut(this.#parts.keys[index]!, 'unfinished'));
  }

  /** What was put in, by offset of the page: the whole page is its own bytes with these among them. */
  get edits(): readonly Edit[] {
    return this.#edits;
  }

  /** The bytes taken but not given out yet. After an error these, unchanged, continue the page. */
  held(): Uint8Array {
    if (this.#phase === 'sniffing') return this.#sniffer.collected();
    return this.#chunks.bytes(this.#given, this.#chunks.end);
  }

  /** Takes a chunk and gives out what is decided. The chunk must not be changed afterwards. */
  write(chunk: Uint8Array): Uint8Array[] {
    if (this.#phase === 'passing') return [chunk];
    return this.#advance(chunk, false);
  }

  /** Ends the page and gives out the rest. */
  end(): Uint8Array[] {
    if (this.#phase === 'passing') return [];
    return this.#advance(new Uint8Array(0), true);
  }

  /** The page will not be continued. What it held is free for another one; nothing more may be written. */
  abandon(): void {
    this.#finish();
  }

  #advance(chunk: Uint8Array, ended: boolean): Uint8Array[] {
    this.#out = [];
    this.#outTo = this.#given;
    const taken = this.#phase === 'sniffing' ? this.#sniff(chunk, ended) : chunk;
    if (taken === undefined) return [];
    this.#chunks.add(taken);
    if (this.#pending > 0) this.#read(taken, ended);
    const isDone = ended || this.#pending === 0;
    if (ended) this.#settleRest();
    this.#copy(isDone ? this.#chunks.end : Math.max(this.#outTo, this.#decided()));
    if (isDone) this.#finish();
    this.#given = this.#outTo;
    this.#chunks.dropBefore(this.#given);
    return this.#out;
  }

  /** @returns the bytes collected once the encoding is known */
  #sniff(chunk: Uint8Array, ended: boolean): Uint8Array | undefined {
    const encoding = this.#sniffer.take(chunk, ended);
    if (!encoding) return undefined;
    this.#phase = 'inserting';
    this.#encoding = encoding;
    this.#leaveOutAll(this.#parts.unwritable(encoding.name), 'encoding');
    this.#narrower = narrowerFor(encoding.name, encoding.markLength);
    this.#scanner = this.#plain ? new PlainScanner() : fastestScanner();
    const mayUseFastPath = this.#parts.elements.steps.length === 0;
    if (mayUseFastPath) this.#kept = [];
    this.#reset(mayUseFastPath);
    return this.#sniffer.collected();
  }

  #reset(mayUseFastPath: boolean): void {
    const { name, markLength, declarationEnd } = this.#encoding;
    const pairs = PAIRS.get(name ?? '') ?? Pairs.None;
    const watch = declarationEnd === undefined ? -1 : declarationEnd - markLength;
    this.#scanner!.reset(this.#parts.elements, mayUseFastPath, pairs, watch);
  }

  /** Lets the machine read a chunk and does what it tells. */
  #read(chunk: Uint8Array, ended: boolean): void {
    // The mark is no text to the parser; it lies whole in the first chunk.
    const isFirst = this.#chunks.end === chunk.length && this.#encoding.markLength > 0;
    const text = isFirst ? chunk.subarray(this.#encoding.markLength) : chunk;
    const narrowed = this.#narrower ? this.#narrower.narrow(text) : text;
    if (this.#kept) {
      this.#kept.push(narrowed);
      this.#keptLength += narrowed.length;
      if (this.#keptLength > KEPT_FOR_ALARM && this.#keptLength > narrowed.length) {
        this.#readAgain(ended);
        return;
      }
    }
    this.#scanner!.push(narrowed);
    if (!this.#run(ended)) this.#readAgain(ended);
  }

  /** Reads the page again from its start, with all of its elements, and goes on so. */
  #readAgain(ended: boolean): void {
    const kept = this.#kept!;
    this.#kept = undefined;
    this.#reset(false);
    this.#knownEvents = this.#eventCount;
    for (const [index, chunk] of kept.entries()) {
      this.#scanner!.push(chunk);
      this.#run(ended && index === kept.length - 1);
    }
  }

  /** Runs the machine to the end of its bytes. @returns false where the machine bailed out */
  #run(ended: boolean): boolean {
    const scanner = this.#scanner!;
    for (;;) {
      const status = scanner.run(ended);
      const events = scanner.takeEvents();
      for (let i = 0; i < events.length; i += 4) {
        if (this.#knownEvents > 0) this.#knownEvents--;
        else this.#emit(events[i]!, events[i + 1]!, events[i + 2]!, events[i + 3]!);
      }
      this.#flushQueue();
      if (this.#pending === 0) return true;
      if (status === Status.More) return true;
      if (status === Status.BailOut) return false;
      if (status === Status.GivenUp) {
        this.#queue = [];
        for (const group of this.#parts.placements.values()) this.#leaveOutAll(group, 'too-complex');
        return true;
      }
      if (status === Status.Query) this.#answer();
    }
  }

  #answer(): void {
    const { query, from, to, isQuirks } = this.#scanner!.question();
    const text = (): string => this.#decode(this.#chunks.bytes(this.#offset(from), this.#offset(to)));
    if (query === Query.Doctype) {
      // Asked again when the page is read again, whose bytes may have been given out.
      this.#isQuirks ??= isQuirksDoctype(text());
      this.#scanner!.answer(this.#isQuirks ? 1 : 0);
    } else {
      this.#scanner!.answerTag(this.#parts.elements.fitting(text(), isQuirks));
    }
  }

  #decode(bytes: Uint8Array): string {
    return decoderOf(this.#encoding.name).decode(bytes);
  }

  /** The page's offset of a position of the machine. */
  #offset(position: number): number {
    return this.#narrower ? this.#narrower.original(position) : position + this.#encoding.markLength;
  }

  /** How far the page can be given out. */
  #decided(): number {
    const hold = this.#scanner!.hold();
    const queued = this.#queue[0]?.offset ?? Infinity;
    return Math.min(this.#offset(hold >= 0 ? hold : this.#scanner!.position()), queued);
  }

  #emit(kind: number, position: number, first: number, second: number): void {
    this.#eventCount++;
    const event = { kind, offset: this.#offset(position), first, second };
    if (kind === Event.Frameset) this.#becomeFrameset();
    else if (kind === Event.BodyUndecided) this.#undecided();
    else this.#queue.push(event);
  }

  /** Applies the events of places that are no longer held back. */
  #flushQueue(): void {
    const hold = this.#scanner!.hold();
    const limit = hold >= 0 ? this.#offset(hold) : Infinity;
    while (this.#queue.length > 0 && this.#pending > 0) {
      const event = this.#queue[0]!;
      // A place exactly at the limit is free unless it is what is being held back.
      const waits = event.offset > limit || (event.offset === limit && isOfBody(event.kind));
      if (waits) return;
      this.#queue.shift();
      this.#apply(event);
    }
  }

  #apply({ kind, offset, first, second }: ScanEvent): void {
    switch (kind) {
      case Event.HeadStart:
        if (first === 1) this.#headImpliedAt = offset;
        this.#startHead(offset);
        break;
      case Event.HeadEnd:
        if (this.#afterDeclaration.length > 0) this.#leaveOutAll(this.#afterDeclaration, 'charset');
        if (first === 1) this.#headImpliedAt = offset;
        this.#write(this.#named('head-end'), offset);
        break;
      case Event.BodyStart:
        if (first === 1) this.#bodyImpliedAt = offset;
        this.#write(this.#named('body-start'), offset);
        break;
      case Event.BodyEnd:
        this.#write(this.#named('body-end'), offset);
        break;
      case Event.Before:
      case Event.Inside:
      case Event.InsideEnd:
      case Event.After:
        this.#anchor(this.#parts.elements.names[first - 1]!, SIDES[kind]!, offset, second);
        break;
      case Event.Watched:
        this.#write(this.#afterDeclaration, offset, 'after-charset');
        this.#afterDeclaration = [];
        break;
      case Event.LeftOut:
        for (const placement of NAMED_PLACEMENTS)
          if ((first & PLACE_BITS[placement]) !== 0)
            this.#leaveOutAll(this.#named(placement), LEFT_OUT_REASONS[second]!);
    }
  }

  /** The encoding's declaration must stay in the first 1,024 bytes: what would push it out goes after it. */
  #startHead(offset: number): void {
    const group = this.#open(this.#named('head-start'));
    if (this.#fitsBeforeDeclaration(group, offset)) this.#write(group, offset);
    else this.#afterDeclaration = group;
  }

  #fitsBeforeDeclaration(group: readonly PreparedPart[], offset: number): boolean {
    const end = this.#encoding.declarationEnd;
    if (end === undefined || offset >= end) return true;
    const length = group.reduce(
      (sum, part) => sum + this.#bytes(part).length,
      HEAD_TAG.length + BODY_TAG.length,
    );
    return end + this.#added + length <= PRESCAN_BYTES;
  }

  #anchor(name: string, side: AnchorSide, offset: number, verdict: number): void {
    const group = this.#parts.placements.get(`${side}:${name}`) ?? [];
    const fitting = group.filter((part) => fitsAt(part, verdict));
    this.#leaveOutAll(
      group.filter((part) => !fitting.includes(part)),
      'anchor-refused',
    );
    const closes = Math.floor(verdict / Anchor.Closes) - 1;
    if (closes >= 0 && this.#open(fitting).length > 0) this.#close(TAG_NAMES.split(' ')[closes]!, offset);
    this.#write(fitting, offset);
  }

  /** The page's next tag would end this element: said now, once, what comes stands behind it. */
  #close(name: string, offset: number): void {
    const closing = `${offset} ${name}`;
    if (this.#closed === closing) return;
    this.#closed = closing;
    this.#copy(offset);
    this.#add(this.#tag(encoder.encode(`</${name}>`)));
  }

  #becomeFrameset(): void {
    this.#queue = this.#queue.filter((event) => !isOfBody(event.kind));
    for (const placement of ['body-start', 'body-end'] as const)
      this.#leaveOutAll(this.#named(placement), 'frameset');
  }

  /** Nothing can be put where only a written tag would make sure of the body. */
  #undecided(): void {
    const start = this.#queue.find((event) => event.kind === Event.BodyStart);
    this.#queue = this.#queue.filter((event) => event !== start && event.offset !== start?.offset);
    this.#leaveOutAll(this.#named('body-start'), 'undecided');
  }

  #write(group: readonly PreparedPart[], offset: number, note?: 'after-charset'): void {
    const fitting = this.#open(group);
    if (fitting.length === 0) return;
    if (note === undefined && !this.#fitsBeforeDeclaration(fitting, offset)) {
      this.#leaveOutAll(fitting, 'charset');
      return;
    }
    this.#copy(offset);
    // Where head or body are only implied, their tags may have to be written, so that what comes first in a part does
    // not end the head or stand before it, or a script fall into it. They change nothing there: both begin here.
    const around = this.#narrower?.around(offset);
    this.#add(around?.before);
    if (this.#headImpliedAt === offset && !fitting[0]!.startsInHead) this.#add(this.#tag(HEAD_TAG));
    if (this.#headImpliedAt === offset) this.#headImpliedAt = -1;
    if (this.#bodyImpliedAt === offset) this.#add(this.#tag(BODY_TAG));
    if (this.#bodyImpliedAt === offset) this.#bodyImpliedAt = -1;
    for (const part of fitting) {
      this.#add(this.#bytes(part));
      const event = note === undefined ? {} : { note, message: noteWords(note) };
      this.#settle(part, { key: part.key, inserted: true, offset, ...event });
    }
    this.#add(around?.after);
  }

  #add(bytes: Uint8Array | undefined): void {
    if (bytes === undefined || bytes.length === 0) return;
    this.#out.push(bytes);
    this.#edits.push({ offset: this.#outTo, bytes });
    this.#added += bytes.length;
  }

  /** Our own tags in the page's encoding. */
  #tag(tag: Uint8Array): Uint8Array {
    if (this.#narrower === undefined || this.#encoding.name === 'iso-2022-jp') return tag;
    const wide = new Uint8Array(tag.length * 2);
    tag.forEach((byte, i) => (wide[i * 2 + (this.#encoding.name === 'utf-16be' ? 1 : 0)] = byte));
    return wide;
  }

  #copy(to: number): void {
    if (to <= this.#outTo) return;
    this.#chunks.copyTo(this.#out, this.#outTo, to);
    this.#outTo = to;
  }

  #bytes(part: PreparedPart): Uint8Array {
    return part.bytes(this.#encoding.name)!;
  }

  #named(placement: NamedPlacement): readonly PreparedPart[] {
    return this.#parts.placements.get(placement) ?? [];
  }

  /** Those of a group about which nothing has been decided. */
  #open(group: readonly PreparedPart[]): readonly PreparedPart[] {
    return group.filter((part) => !this.#outcomes[part.index]);
  }

  #leaveOutAll(group: readonly PreparedPart[], reason: LeftOutReason): void {
    for (const part of this.#open(group)) this.#settle(part, leftOut(part.key, reason));
  }

  #settle(part: PreparedPart, outcome: InsertOutcome): void {
    this.#outcomes[part.index] = outcome;
    this.#pending--;
  }

  /** What had no event until the end of the page. */
  #settleRest(): void {
    this.#leaveOutAll(this.#afterDeclaration, 'charset');
    for (const [key, group] of this.#parts.placements)
      this.#leaveOutAll(group, key in PLACE_BITS ? 'unfinished' : 'no-anchor');
  }

  #finish(): void {
    this.#phase = 'passing';
    this.#kept = undefined;
    this.#scanner?.release();
    this.#scanner = undefined;
  }
}

let canUseWasm = true;

/** Makes ready what so many pages at a time need, so that no visitor waits for it. */
export function prepareInsertion(pages: number): void {
  const scanners = Array.from({ length: pages }, fastestScanner);
  for (const scanner of scanners) scanner.release();
}

/** WebAssembly where it may be used, JavaScript otherwise: both read the same. */
function fastestScanner(): Scanner {
  if (canUseWasm) {
    try {
      return wasmScanner();
    } catch {
      canUseWasm = false;
    }
  }
  return new PlainScanner();
}
