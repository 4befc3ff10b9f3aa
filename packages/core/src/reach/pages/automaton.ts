import type { PagePattern } from './page-pattern.js';
import type { PatternPart } from './parts.js';
import type { RegexpNode } from './regexp.js';

/** Which characters a step takes: one, all but some, or one of some. */
export type Step =
  | { readonly one: number; readonly to: number }
  | { readonly allBut: readonly number[]; readonly to: number }
  | { readonly among: ReadonlySet<number>; readonly to: number };

const code = (text: string): number => text.charCodeAt(0);
const SLASH = code('/');
const QUESTION = code('?');
const DOT = code('.');
const SPACE = code(' ');

/** Characters that end a component, and with it what stands for anything there; and those that end a name. */
const STOPS = {
  host: { anything: [SPACE], segment: [SPACE, DOT] },
  path: { anything: [QUESTION], segment: [SLASH, QUESTION] },
  search: { anything: [], segment: [] },
} as const;

type Piece = keyof typeof STOPS;

/**
 * A nondeterministic automaton over page texts (see `pageText`), made from patterns by Thompson's construction. What is
 * accepted carries the numbers of the patterns that accept it.
 */
export class PatternAutomaton {
  readonly steps: Step[][] = [];
  readonly free: number[][] = [];
  readonly accepts = new Map<number, number>();
  readonly start: number;
  /** Behind any host, shared by all patterns that name none. */
  readonly #anyHost: number;

  constructor(patterns: readonly (PagePattern | undefined)[]) {
    this.start = this.#state();
    this.#anyHost = this.#text(this.#star(this.start, STOPS.host.anything), ' ');
    patterns.forEach((pattern, number) => {
      if (!pattern) return;
      let state = pattern.host
        ? this.#text(this.#sequence(this.start, pattern.host, 'host'), ' ')
        : this.#anyHost;
      state = this.#sequence(state, pattern.path, 'path');
      state = this.#text(state, '?');
      state = pattern.search ? this.#sequence(state, pattern.search, 'search') : this.#star(state, []);
      this.accepts.set(state, number);
    });
  }

  #state(): number {
    this.free.push([]);
    return this.steps.push([]) - 1;
  }

  #text(from: number, text: string): number {
    let at = from;
    for (let i = 0; i < text.length; i++) {
      const to = this.#state();
      this.steps[at]!.push({ one: text.charCodeAt(i), to });
      at = to;
    }
    return at;
  }

  /** Any number of characters. */
  #star(from: number, allBut: readonly number[]): number {
    const loop = this.#state();
    this.free[from]!.push(loop);
    this.steps[loop]!.push({ allBut, to: loop });
    return loop;
  }

  #sequence(from: number, parts: readonly PatternPart[], piece: Piece): number {
    return parts.reduce((at, part) => this.#part(at, part, piece), from);
  }

  /** URLPattern Standard, 2.1.4, "generate a regular expression and name list", as an automaton. */
  #part(from: number, part: PatternPart, piece: Piece): number {
    const { modifier } = part;
    const body =
      part.kind === 'text'
        ? (at: number) => this.#text(at, part.value)
        : part.kind === 'regexp'
          ? (at: number) => this.#regexp(at, part.regexp, piece)
          : (at: number) => this.#wild(at, part.kind === 'anything', piece);
    const { prefix, suffix } = part.kind === 'text' ? { prefix: '', suffix: '' } : part;
    // A state of its own, so that a way back leads to this part only.
    const begin = this.#free(from, this.#state());
    if (modifier === '' || modifier === '?') {
      const end = this.#text(body(this.#text(begin, prefix)), suffix);
      if (modifier === '') return end;
      // A state of its own: the last one of a wildcard takes more characters, and who leaves the part out may not.
      return this.#free(begin, this.#free(end, this.#state()));
    }
    const once = body(this.#text(begin, prefix));
    const again = this.#text(this.#text(once, suffix), prefix);
    const more = body(this.#free(again, this.#state()));
    this.#free(more, once);
    const end = this.#text(this.#free(once, this.#state()), suffix);
    if (modifier === '*') this.#free(begin, end);
    return end;
  }

  #wild(from: number, isAnything: boolean, piece: Piece): number {
    if (isAnything) return this.#star(this.#free(from, this.#state()), STOPS[piece].anything);
    const first = this.#state();
    this.steps[from]!.push({ allBut: STOPS[piece].segment, to: first });
    return this.#star(first, STOPS[piece].segment);
  }

  /** Thompson's construction; what is counted is written out. No expression reaches beyond its component. */
  #regexp(from: number, node: RegexpNode, piece: Piece): number {
    switch (node.kind) {
      case 'one-of': {
        const stops: readonly number[] = STOPS[piece].anything;
        const to = this.#state();
        this.steps[from]!.push({ among: new Set([...node.set].filter((one) => !stops.includes(one))), to });
        return to;
      }
      case 'sequence':
        return node.parts.reduce((at, part) => this.#regexp(at, part, piece), from);
      case 'choice': {
        const end = this.#state();
        for (const part of node.parts)
          this.#free(this.#regexp(this.#free(from, this.#state()), part, piece), end);
        return end;
      }
      case 'repeat':
        return this.#repeat(from, node, piece);
    }
  }

  #repeat(from: number, { part, min, max }: Extract<RegexpNode, { kind: 'repeat' }>, piece: Piece): number {
    let at = from;
    for (let i = 0; i < min; i++) at = this.#regexp(at, part, piece);
    if (max === Infinity) {
      const loop = this.#free(at, this.#state());
      this.#free(this.#regexp(this.#free(loop, this.#state()), part, piece), loop);
      return this.#free(loop, this.#state());
    }
    const end = this.#state();
    this.#free(at, end);
    for (let i = min; i < max; i++) {
      at = this.#regexp(this.#free(at, this.#state()), part, piece);
      this.#free(at, end);
    }
    return end;
  }

  #free(from: number, to: number): number {
    this.free[from]!.push(to);
    return to;
  }
}

function takes(step: Step, character: number): boolean {
  if ('one' in step) return step.one === character;
  return 'among' in step ? step.among.has(character) : !step.allBut.includes(character);
}

/** Page texts are plain ASCII: URLs are. */
const CHARACTERS = 128;
/** So much is kept, in numbers; addresses that nobody has made up need little. */
const HEAVIEST = 4_000_000;

interface State {
  readonly members: readonly number[];
  /** Numbers of the patterns that accept here, ascending. */
  readonly accepts: readonly number[];
  /** By character; 0 where it is not worked out yet, otherwise the state's number and 1. */
  readonly next: Int32Array;
}

/**
 * The deterministic automaton of the same patterns, worked out as far as it is walked (subset construction). One step
 * for each character of a page text, however many patterns there are.
 */
export class PageAutomaton {
  readonly #automaton: PatternAutomaton;
  #states: State[] = [];
  #byMembers = new Map<string, number>();
  #weight = 0;

  constructor(patterns: readonly (PagePattern | undefined)[]) {
    this.#automaton = new PatternAutomaton(patterns);
    this.#clear();
  }

  /** Where a character leads; the state before the first is 0. */
  step(state: number, character: number): number {
    const { next, members } = this.#states[state]!;
    const known = next[character]!;
    if (known > 0) return known - 1;
    const to = this.#intern(this.#reached(members, character));
    next[character] = to + 1;
    return to;
  }

  /** Numbers of the patterns that match a text that ends in a state. */
  accepts(state: number): readonly number[] {
    return this.#states[state]!.accepts;
  }

  /** Numbers of the patterns that match a page text. */
  match(text: string): readonly number[] {
    let state = 0;
    for (let i = 0; i < text.length; i++) {
      const character = text.charCodeAt(i);
      if (character >= CHARACTERS) return [];
      const known = this.#states[state]!.next[character]!;
      state = known > 0 ? known - 1 : this.step(state, character);
      // Also in the middle of an address that was made to need a state for each of its characters.
      if (this.#weight > HEAVIEST) state = this.#forget(state);
    }
    return this.#states[state]!.accepts;
  }

  #clear(): void {
    this.#states = [];
    this.#byMembers = new Map();
    this.#weight = 0;
    this.#intern(this.#closed([this.#automaton.start]));
  }

  /** All states but one, which gets another number. */
  #forget(state: number): number {
    const { members } = this.#states[state]!;
    this.#clear();
    return this.#intern(members);
  }

  #reached(members: readonly number[], character: number): number[] {
    const reached: number[] = [];
    for (const member of members)
      for (const step of this.#automaton.steps[member]!) if (takes(step, character)) reached.push(step.to);
    return this.#closed(reached);
  }

  /** With all that is reached without a character, ascending, each once. */
  #closed(states: readonly number[]): number[] {
    const seen = new Set(states);
    for (const state of seen) for (const to of this.#automaton.free[state]!) seen.add(to);
    return [...seen].sort((a, b) => a - b);
  }

  #intern(members: readonly number[]): number {
    const key = members.join();
    let state = this.#byMembers.get(key);
    if (state === undefined) {
      const accepts = members.flatMap((member) => this.#automaton.accepts.get(member) ?? []);
      accepts.sort((a, b) => a - b);
      state = this.#states.push({ members, accepts, next: new Int32Array(CHARACTERS) }) - 1;
      this.#byMembers.set(key, state);
      this.#weight += CHARACTERS + 3 * members.length;
    }
    return state;
  }
}
