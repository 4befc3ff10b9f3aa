import type { AnchorPlacement, AnchorSide } from '../placements.js';
import { anchorName } from '../placements.js';
import { TAG_NAMES } from '../machine/tags.js';
import type { ScannedElements, ScannedStep } from '../machine/scanner.js';
import { Wants } from '../machine/selection.js';
import { fitsTag } from './fits-tag.js';
import { anchorSelector } from './selector-text.js';
import { readWrittenTag } from './tag-attributes.js';
import type { Selector, SelectorStep } from './types.js';

/** Numbers of names: any, and those whose tags are asked about (`ScannedStep`). */
const ANY = -1;
const ASKED = -2;
/** Steps that one number holds a bit for (`machine/selection.ts`). */
const BITS = 31;

const KNOWN_TAGS: ReadonlyMap<string, number> = new Map(TAG_NAMES.split(' ').map((name, i) => [name, i]));
/** Tags whose answers are remembered, for all page loads that get the same parts. */
const MAX_REMEMBERED = 2048;
/** Longer tags are read each time. */
const MAX_REMEMBERED_LENGTH = 256;

const END_SIDES: ReadonlySet<AnchorSide> = new Set(['inside-end', 'after']);

/** The elements that parts ask for, made ready for the page machine. */
export class WantedElements implements ScannedElements {
  /** The names of the elements (`anchorName`), by their numbers less one. */
  readonly names: readonly string[];
  readonly steps: readonly ScannedStep[];
  /** What start tags must have to be asked about, as bits (`Wants`). */
  readonly wants: number;
  readonly #asked: readonly SelectorStep[];
  readonly #remembered = [new Map<string, Int32Array>(), new Map<string, Int32Array>()] as const;

  constructor(placements: readonly AnchorPlacement[]) {
    const selectors = new Map<string, Selector>();
    const ends = new Set<string>();
    for (const placement of placements) {
      const name = anchorName(placement);
      if (!selectors.has(name)) selectors.set(name, anchorSelector(placement));
      if (END_SIDES.has(placement.side)) ends.add(name);
    }
    const book = new StepBook();
    this.names = [...selectors.keys()];
    this.names.forEach((name, index) => book.add(selectors.get(name)!, index + 1, ends.has(name)));
    this.steps = book.steps;
    this.#asked = book.asked;
    this.wants = wantsOf(book.asked);
  }

  /** How many numbers say which steps a tag fits. */
  get words(): number {
    return Math.ceil(this.steps.length / BITS);
  }

  /** The steps whose name and attributes a start tag has, as bits. */
  fitting(tag: string, isQuirks: boolean): Int32Array {
    const remembered = this.#remembered[isQuirks ? 1 : 0];
    const known = remembered.get(tag);
    if (known) return known;
    const read = readWrittenTag(tag);
    const fitting = new Int32Array(this.words);
    this.#asked.forEach((step, index) => {
      if (fitsTag(step, read, isQuirks)) fitting[Math.floor(index / BITS)]! |= 1 << (index % BITS);
    });
    if (tag.length <= MAX_REMEMBERED_LENGTH) {
      if (remembered.size >= MAX_REMEMBERED) remembered.clear();
      remembered.set(tag, fitting);
    }
    return fitting;
  }
}

class StepBook {
  readonly steps: ScannedStep[] = [];
  readonly asked: SelectorStep[] = [];
  readonly #counters = new Map<string, number>();

  add(selector: Selector, number: number, wantsEnd: boolean): void {
    let before = -1;
    selector.forEach((step, index) => {
      const isLast = index === selector.length - 1;
      const counter = step.ofType === undefined ? -1 : this.#counter(step.type!);
      const { isChild, child = 0, ofType = 0 } = step;
      before = this.#push(step, {
        before,
        isChild: before >= 0 && isChild,
        child,
        ofType,
        counter,
        selector: isLast ? number : 0,
        wantsEnd: isLast && wantsEnd,
      });
    });
  }

  #counter(type: string): number {
    const known = this.#counters.get(type);
    if (known !== undefined) return known;
    const step = { isChild: false, type, tests: [], child: undefined, ofType: undefined };
    const nothing = { child: 0, ofType: 0, counter: -1, selector: 0, wantsEnd: false };
    const index = this.#push(step, { before: -1, isChild: false, ...nothing });
    this.#counters.set(type, index);
    return index;
  }

  #push(step: SelectorStep, rest: Omit<ScannedStep, 'tag'>): number {
    const known = step.type === undefined ? ANY : (KNOWN_TAGS.get(step.type) ?? ASKED);
    this.steps.push({ ...rest, tag: step.tests.length > 0 ? ASKED : known });
    return this.asked.push(step) - 1;
  }
}

function wantsOf(steps: readonly SelectorStep[]): number {
  let wants = 0;
  for (const step of steps) {
    const names = step.tests.map(({ name }) => name);
    if (names.length === 0) {
      if (step.type !== undefined && !KNOWN_TAGS.has(step.type)) wants |= Wants.UnknownNames;
    } else if (names.includes('id')) wants |= Wants.Ids;
    else if (names.includes('class')) wants |= Wants.Classes;
    else wants |= Wants.Attributes;
  }
  return wants;
}
