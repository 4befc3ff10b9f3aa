import { run } from './tokenizer.js';
import type { Selection } from './selection.js';
import { Machine } from './state.js';

export interface Question {
  readonly query: number;
  readonly from: number;
  readonly to: number;
  /** The page is in quirks mode, as far as is known. */
  readonly isQuirks: boolean;
}

/** A step of a selector as the machine takes it. */
export interface ScannedStep {
  /** The number of the element's name; -1 for any, -2 where the tag is asked about. */
  readonly tag: number;
  /** The step before it, by index; -1 for none. */
  readonly before: number;
  readonly isChild: boolean;
  /** Its place among its parent's children, and among those of its name, from 1; 0 for any. */
  readonly child: number;
  readonly ofType: number;
  /** The index of the step that counts elements of its name; -1 for none. */
  readonly counter: number;
  /** The number of the selector that ends here; 0 for none. */
  readonly selector: number;
  /** Parts ask for the end of the element, too. */
  readonly wantsEnd: boolean;
}

export type AddStep = Selection['addStep'];

/** The elements that parts ask for. */
export interface ScannedElements {
  readonly steps: readonly ScannedStep[];
  /** How many numbers hold a bit for each step. */
  readonly words: number;
  readonly wants: number;
}

/** A page machine as the inserter sees it, in JavaScript or in WebAssembly. Positions are the page's. */
export interface Scanner {
  /**
   * @param elements - the elements that are to be told of
   * @param mayUseFastPath - elements that do not matter to the end of the body may be passed over; it may bail out
   * @param pairs - see `cdata.ts`
   * @param watch - the head element that ends at this position makes an event
   */
  reset(elements: ScannedElements, mayUseFastPath: boolean, pairs: number, watch: number): void;
  /** Adds bytes. */
  push(chunk: Uint8Array): void;
  /** Goes on; `ended` says that no more bytes come. @returns a `Status` */
  run(ended: boolean): number;
  /** Everything before is understood. */
  position(): number;
  /** From where on nothing may be given out yet, or -1. */
  hold(): number;
  /** Events since the last call, four numbers each (`Event`, position, two arguments). */
  takeEvents(): readonly number[];
  /** What is asked (`Query`), and about what: the doctype or the start tag from `from` to `to`. */
  question(): Question;
  answer(value: number): void;
  /** The answer to `Query.Tag`: the steps that the start tag fits. */
  answerTag(steps: Int32Array): void;
  /** The page is done with; the scanner may be used for another one. */
  release(): void;
}

/** The machine in JavaScript. */
export class PlainScanner implements Scanner {
  readonly #machine = new Machine();

  reset(elements: ScannedElements, mayUseFastPath: boolean, pairs: number, watch: number): void {
    this.#machine.reset(elements.words, elements.wants, mayUseFastPath, pairs);
    const { selection } = this.#machine;
    addSteps(elements, (...step) => selection.addStep(...step));
    this.#machine.watch = watch;
    this.#machine.window.bytes = new Uint8Array(0);
  }

  push(chunk: Uint8Array): void {
    const m = this.#machine;
    const left = m.window.bytes.subarray(m.at, m.end);
    let bytes = chunk;
    if (left.length > 0) {
      bytes = new Uint8Array(left.length + chunk.length);
      bytes.set(left);
      bytes.set(chunk, left.length);
    }
    m.base += m.at;
    m.at = 0;
    m.window.bytes = bytes;
    m.end = bytes.length;
  }

  run(ended: boolean): number {
    this.#machine.ended = ended;
    return run(this.#machine);
  }

  position(): number {
    return this.#machine.base + this.#machine.at;
  }

  hold(): number {
    return this.#machine.hold();
  }

  takeEvents(): readonly number[] {
    const m = this.#machine;
    const events: number[] = [];
    for (let i = 0; i < m.eventCount * 4; i++) events.push(m.events.get(i));
    m.eventCount = 0;
    return events;
  }

  question(): Question {
    const m = this.#machine;
    return {
      query: m.query,
      from: m.base + m.tagStart,
      to: m.base + m.tagEnd,
      isQuirks: m.quirks,
    };
  }

  answer(value: number): void {
    this.#machine.answer = value;
  }

  answerTag(steps: Int32Array): void {
    steps.forEach((bits, word) => this.#machine.selection.setTag(word, bits));
  }

  release(): void {
    // Made for one page.
  }

  /** Names of the open elements, outermost first: for comparison with a whole parser. */
  openNumbers(): number[] {
    const { open } = this.#machine;
    return Array.from({ length: open.top + 1 }, (_, i) => open.tag(i) | (open.ns(i) << 20));
  }
}

/** Hands the steps to a machine. */
export function addSteps({ steps }: ScannedElements, add: AddStep): void {
  for (const { tag, before, isChild, child, ofType, counter, selector, wantsEnd } of steps)
    add(tag, before, isChild ? 1 : 0, child, ofType, counter, selector, wantsEnd ? 1 : 0);
}
