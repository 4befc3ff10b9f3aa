import type { AnchorPlacement, AnchorSide } from '../placements.js';
import { anchorName } from '../placements.js';
import { TAG_NAMES } from '../machine/tags.js';
import { Wants } from '../machine/selection.js';
import { fitsTag } from './fits-tag.js';
import { parseSelector } from './parse-selector.js';
import { readWrittenTag } from './tag-attributes.js';
import type { Selector, SelectorStep } from './types.js';

/** A step as the page machine takes it; see `machine/selection.ts`. */
export interface MachineStep {
  /** The number of the element's name, `ANY` or `ASKED`. */
  readonly tag: number;
  /** The step before it, by index; -1 for none. */
  readonly before: number;
  readonly isChild: boolean;
  readonly child: number;
  readonly ofType: number;
  /** The index of the step that counts elements of its type; -1 for none. */
  readonly counter: number;
  /** The number of the selector that ends here; 0 for none. */
  readonly selector: number;
  /** Parts ask for the end of the element, too. */
  readonly wantsEnd: boolean;
}

/** Every element of a name, and whatever has to be asked for. */
const ANY = -1;
const ASKED = -2;

const KNOWN_TAGS: ReadonlyMap<string, number> = new Map(TAG_NAMES.split(' ').map((name, i) => [name, i]));
/** Tags whose answers are remembered, for all page loads that get the same parts. */
const MAX_REMEMBERED = 2048;
/** Longer tags are read each time. */
const MAX_REMEMBERED_LENGTH = 256;

const END_SIDES: ReadonlySet<AnchorSide> = new Set(['inside-end', 'after']);

/** The elements that parts ask for, made ready for the page machine. */
export class WantedElements {
  /** By the name of the element (`anchorName`): its number, from 1. */
  readonly numbers: ReadonlyMap<string, number>;
  readonly names: readonly string[];
  readonly steps: readonly MachineStep[];
  /** What start tags must have to be asked about, as bits (`Wants`). */
  readonly wants: number;
  readonly #asked: readonly SelectorStep[];
  readonly #remembered = [new Map<string, Int32Array>(), new Map<string, Int32Array>()] as const;

  constructor(placements: readonly AnchorPlacement[]) {
    const numbers = new Map<string, number>();
    const ends = new Set<string>();
    const selectors: Selector[] = [];
    for (const placement of placements) {
      const name = anchorName(placement);
      if (!numbers.has(name)) numbers.set(name, selectors.push(selectorOf(placement)));
      if (END_SIDES.has(placement.side)) ends.add(name);
    }
    const book = new StepBook();
    this.numbers = numbers;
    this.names = [...numbers.keys()];
    selectors.forEach((selector, index) => book.add(selector, index + 1, ends.has(this.names[index]!)));
    this.steps = book.steps;
    this.#asked = book.asked;
    this.wants = wantsOf(book.asked);
  }

  /** How many numbers of 31 bits say which steps a tag fits. */
  get words(): number {
    return Math.ceil(this.steps.length / 31);
  }

  /** The steps whose name and attributes a start tag has, as bits, 31 to a number. */
  fitting(tag: string, isQuirks: boolean): Int32Array {
    const remembered = this.#remembered[isQuirks ? 1 : 0];
    const known = remembered.get(tag);
    if (known) return known;
    const read = readWrittenTag(tag);
    const fitting = new Int32Array(this.words);
    this.#asked.forEach((step, index) => {
      if (fitsTag(step, read, isQuirks)) fitting[Math.floor(index / 31)]! |= 1 << (index % 31);
    });
    if (tag.length <= MAX_REMEMBERED_LENGTH) {
      if (remembered.size >= MAX_REMEMBERED) remembered.clear();
      remembered.set(tag, fitting);
    }
    return fitting;
  }
}

/** An id is one by itself, in the very letters of the page, quirks or not (DOM, getElementById). */
function selectorOf(placement: AnchorPlacement): Selector {
  if ('selector' in placement) return parseSelector(placement.selector);
  const test = { name: 'id', kind: 'equals', value: placement.anchor, folds: 'never' } as const;
  return [{ isChild: false, type: undefined, tests: [test], child: undefined, ofType: undefined }];
}

class StepBook {
  readonly steps: MachineStep[] = [];
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
    const rest = {
      before: -1,
      isChild: false,
      child: 0,
      ofType: 0,
      counter: -1,
      selector: 0,
      wantsEnd: false,
    };
    const index = this.#push(step, rest);
    this.#counters.set(type, index);
    return index;
  }

  #push(step: SelectorStep, rest: Omit<MachineStep, 'tag'>): number {
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
