import { Status } from './machine/state.js';
import {
  addSteps,
  type AddStep,
  type Question,
  type ScannedElements,
  type Scanner,
} from './machine/scanner.js';
import { SCANNER_MODULE } from './scanner-module.js';

interface Exports {
  readonly memory: WebAssembly.Memory;
  stateAddress(): number;
  reset(words: number, wants: number, mayUseFastPath: boolean, pairs: number, watch: number): void;
  readonly addStep: AddStep;
  room(length: number): number;
  run(ended: boolean): number;
  answer(value: number): void;
  answerTag(word: number, bits: number): void;
}

const STATE_WORDS = 8;
/** The machine reads this much at a time, so that what it copies stays in the processor's cache. */
const SLICE = 1 << 16;
/** The answer instead of `Status.More` while there is more to copy. */
const MORE_WAITS = -1;
/** Instances that wait for another page; each has some hundred kilobytes. */
const MAX_POOLED = 256;
const NO_EVENTS: readonly number[] = [];
const NO_BYTES = new Uint8Array(0);
/** One that a page has made larger than this is let go. */
const MAX_POOLED_BYTES = 4 << 20;

/** The machine in WebAssembly: an instance of its own for each page, used again afterwards. */
export class WasmScanner implements Scanner {
  readonly #machine: Exports;
  readonly #stateAddress: number;
  readonly #pool: WasmScanner[];
  #memory: Uint8Array;
  #words: Int32Array;
  #state: Int32Array;
  /** Bytes that were added and have not been copied yet. */
  #waiting: Uint8Array = NO_BYTES;
  #hasQueried = false;

  constructor(module: WebAssembly.Module, pool: WasmScanner[]) {
    this.#machine = new WebAssembly.Instance(module, {}).exports as unknown as Exports;
    this.#pool = pool;
    this.#stateAddress = this.#machine.stateAddress();
    this.#memory = new Uint8Array(this.#machine.memory.buffer);
    this.#words = new Int32Array(this.#machine.memory.buffer);
    this.#state = new Int32Array(this.#machine.memory.buffer, this.#stateAddress, STATE_WORDS);
  }

  reset(elements: ScannedElements, mayUseFastPath: boolean, pairs: number, watch: number): void {
    this.#waiting = NO_BYTES;
    this.#machine.reset(elements.words, elements.wants, mayUseFastPath, pairs, watch);
    addSteps(elements, this.#machine.addStep);
    this.#refresh();
    this.#state.fill(0);
    this.#hasQueried = false;
  }

  push(chunk: Uint8Array): void {
    this.#waiting = chunk;
  }

  run(ended: boolean): number {
    let status: number;
    do {
      // What a question is about must stay where it is until the answer has been used.
      if (this.#hasQueried) this.#hasQueried = false;
      else this.#take();
      status = this.#machine.run(ended && this.#waiting.length === 0);
      this.#refresh();
      // Events are taken one run at a time.
    } while (status === Status.More && this.#waiting.length > 0 && this.#state[2] === 0);
    this.#hasQueried = status === Status.Query;
    return status === Status.More && this.#waiting.length > 0 ? MORE_WAITS : status;
  }

  /** Copies the next slice to the machine. */
  #take(): void {
    const waiting = this.#waiting;
    if (waiting.length === 0) return;
    const slice = waiting.length <= SLICE ? waiting : waiting.subarray(0, SLICE);
    const at = this.#machine.room(slice.length);
    this.#refresh();
    this.#memory.set(slice, at);
    this.#waiting = waiting === slice ? NO_BYTES : waiting.subarray(slice.length);
  }

  position(): number {
    return this.#state[0]!;
  }

  hold(): number {
    return this.#state[1]!;
  }

  takeEvents(): readonly number[] {
    const count = this.#state[2]!;
    if (count === 0) return NO_EVENTS;
    const from = this.#state[3]! >> 2;
    this.#state[2] = 0;
    const events: number[] = [];
    for (let i = from; i < from + count * 4; i++) events.push(this.#words[i]!);
    return events;
  }

  question(): Question {
    const state = this.#state;
    return { query: state[4]!, from: state[5]!, to: state[6]!, isQuirks: state[7] === 1 };
  }

  answer(value: number): void {
    this.#machine.answer(value);
  }

  answerTag(steps: Int32Array): void {
    for (let word = 0; word < steps.length; word++) this.#machine.answerTag(word, steps[word]!);
  }

  release(): void {
    this.#waiting = NO_BYTES;
    if (this.#pool.length < MAX_POOLED && this.#memory.length <= MAX_POOLED_BYTES) this.#pool.push(this);
  }

  /** Memory that has grown is a new one to JavaScript. */
  #refresh(): void {
    const { buffer } = this.#machine.memory;
    if (buffer === this.#memory.buffer) return;
    this.#memory = new Uint8Array(buffer);
    this.#words = new Int32Array(buffer);
    this.#state = new Int32Array(buffer, this.#stateAddress, STATE_WORDS);
  }
}

let module: WebAssembly.Module | undefined;
const pool: WasmScanner[] = [];

/** A scanner in WebAssembly. @throws where WebAssembly (or its vectors) may not be used */
export function wasmScanner(): WasmScanner {
  const kept = pool.pop();
  if (kept) return kept;
  module ??= new WebAssembly.Module(
    Uint8Array.from(atob(SCANNER_MODULE), (character) => character.charCodeAt(0)),
  );
  return new WasmScanner(module, pool);
}
