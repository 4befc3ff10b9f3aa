import { Ints } from './memory.js';
import { Tag } from './tags.js';

/** Which start tags are asked about, as bits. */
export const enum Wants {
  Ids = 1,
  Classes = 2,
  /** All with an attribute. */
  Attributes = 4,
  /** All whose name has no number of its own. */
  UnknownNames = 8,
}

/** A step for every element. */
const ANY: number = -1;
/** Steps that one number holds, a bit each. */
const BITS: number = 31;
/** How an element is kept: numbers before its words and its counters. */
const POSITION: number = 0;
const POSITION_OF_TYPE: number = 1;
const CHILDREN: number = 2;
/** 1: the element below it on the stack is not its parent. */
const IS_DETACHED: number = 3;
const OWN: number = 4;

/** How a step is kept. */
const STEP: number = 6;
const BEFORE: number = 0;
const IS_CHILD: number = 1;
const CHILD: number = 2;
const OF_TYPE: number = 3;
const COUNTER: number = 4;
const SELECTOR: number = 5;

/**
 * Selectors, followed while elements open and close (Selectors Level 4, 17, left to right). For each open element three
 * sets of steps are kept: those that its tag fits, those that it fits where it stands, and those that it or an element
 * around it fits. A child needs the second set of its parent, a descendant the third.
 */
export class Selection {
  /** Somebody asks for elements. */
  isOn: boolean = false;
  wants: number = 0;
  /** The numbers of the selectors whose first element has just come, and how many there are. */
  readonly found: Ints = new Ints(16);
  foundCount: number = 0;
  /** The same of elements without a start tag of their own. */
  readonly refused: Ints = new Ints(16);
  refusedCount: number = 0;
  /** The next element comes by the current start tag. */
  isTag: boolean = false;
  /** The next element stands before the table at this index, in the element before it; -1 for nothing of the kind. */
  fosterParent: number = -1;

  /** The next element is a copy of one whose tag was kept under this number; -1 for no copy. */
  #copyOf: number = -1;
  readonly #kept: Ints = new Ints(64);
  #keptCount: number = 0;
  #words: number = 0;
  #stride: number = 0;
  #stepCount: number = 0;
  #counterCount: number = 0;
  readonly #steps: Ints = new Ints(16 * STEP);
  /** By step that counts: its counter from 0, others -1. */
  readonly #counters: Ints = new Ints(16);
  /** By selector: 1 where its element's end matters too. */
  readonly #ends: Ints = new Ints(16);
  /** The steps that a known name alone fits, by name. */
  readonly #byName: Ints = new Ints(Tag.Known);
  readonly #anyName: Ints = new Ints(4);
  /** Selectors that nothing has been found for, by the steps that they end with. */
  readonly #pending: Ints = new Ints(4);
  /** What the current start tag fits. */
  readonly #tag: Ints = new Ints(4);
  /** The open elements, by index. */
  readonly #elements: Ints = new Ints(1024);

  reset(words: number, wants: number): void {
    this.isOn = words > 0;
    this.wants = wants;
    this.#words = words;
    this.#stepCount = 0;
    this.#counterCount = 0;
    this.foundCount = 0;
    this.refusedCount = 0;
    this.isTag = false;
    this.fosterParent = -1;
    this.#copyOf = -1;
    this.#keptCount = 0;
    if (words === 0) return;
    this.#byName.reserve(Tag.Known * words);
    this.#anyName.reserve(words);
    this.#pending.reserve(words);
    this.#tag.reserve(words);
    for (let i = 0; i < Tag.Known * words; i++) this.#byName.set(i, 0);
    for (let i = 0; i < words; i++) {
      this.#anyName.set(i, 0);
      this.#pending.set(i, 0);
    }
    this.#stride = OWN + 3 * words;
  }

  /** Adds a step; `tag` is a number of a name, -1 for any, or -2 where tags are asked about. */
  addStep(
    tag: number,
    before: number,
    isChild: number,
    child: number,
    ofType: number,
    counter: number,
    selector: number,
    wantsEnd: number,
  ): void {
    const step = this.#stepCount++;
    const at = step * STEP;
    this.#steps.reserve(at + STEP);
    this.#steps.set(at + BEFORE, before);
    this.#steps.set(at + IS_CHILD, isChild);
    this.#steps.set(at + CHILD, child);
    this.#steps.set(at + OF_TYPE, ofType);
    this.#steps.set(at + COUNTER, counter);
    this.#steps.set(at + SELECTOR, selector);
    this.#counters.reserve(step + 1);
    this.#counters.set(step, -1);
    if (counter >= 0 && this.#counters.get(counter) < 0) {
      this.#counters.set(counter, this.#counterCount++);
      this.#stride++;
    }
    const word = wordOf(step);
    const bit = 1 << (step % BITS);
    if (selector > 0) {
      this.#pending.set(word, this.#pending.get(word) | bit);
      this.#ends.reserve(selector + 1);
      this.#ends.set(selector, wantsEnd);
    }
    if (tag >= 0) {
      const name = tag * this.#words + word;
      this.#byName.set(name, this.#byName.get(name) | bit);
    } else if (tag === ANY) this.#anyName.set(word, this.#anyName.get(word) | bit);
  }

  /** The end of the element that a selector has found matters. */
  wantsEnd(selector: number): boolean {
    return this.#ends.get(selector) === 1;
  }

  /** The answer to a question about the current start tag, one number at a time. */
  setTag(word: number, bits: number): void {
    this.#tag.set(word, bits);
  }

  /** The current start tag was not asked about: its name tells all. */
  takeName(tag: number): void {
    for (let i = 0; i < this.#words; i++) this.#tag.set(i, this.#fittingName(tag, i));
  }

  /** Keeps what the current start tag fits. @returns its number */
  keepTag(): number {
    const at = this.#keptCount * this.#words;
    this.#kept.reserve(at + this.#words);
    for (let i = 0; i < this.#words; i++) this.#kept.set(at + i, this.#tag.get(i));
    return this.#keptCount++;
  }

  /** The next element is a copy of the one whose tag has this number. */
  isCopyOf(kept: number): void {
    this.#copyOf = kept;
  }

  /** Whether the current start tag may be what a selector looks for. */
  mayFind(): boolean {
    for (let i = 0; i < this.#words; i++) if ((this.#tag.get(i) & this.#pending.get(i)) !== 0) return true;
    return false;
  }

  /** An element opens at `index` of the open elements; one inside a template is on no page. */
  open(index: number, tag: number, isInTemplate: boolean): void {
    const at = index * this.#stride;
    this.#elements.reserve(at + this.#stride);
    for (let i = CHILDREN; i < this.#stride; i++) this.#elements.set(at + i, 0);
    const parent = this.fosterParent >= 0 ? this.fosterParent : index - 1;
    this.#enter(at, parent, tag, isInTemplate);
  }

  /** An element without content comes as the next child of the one at `parent`. */
  append(parent: number, tag: number, isInTemplate: boolean): void {
    // Kept where the next element would be: nothing is open there.
    const at = (parent + 1) * this.#stride;
    this.#elements.reserve(at + this.#stride);
    for (let i = CHILDREN; i < this.#stride; i++) this.#elements.set(at + i, 0);
    this.#enter(at, this.fosterParent >= 0 ? this.fosterParent : parent, tag, isInTemplate);
  }

  /** The elements from `from` on move up by one. */
  moveUp(from: number, count: number): void {
    this.#elements.reserve((from + count + 1) * this.#stride);
    this.move(from + 1, from, count);
  }

  /** Elements move on the stack. */
  move(to: number, from: number, count: number): void {
    this.#elements.move(to * this.#stride, from * this.#stride, count * this.#stride);
  }

  /** An element left the stack, not the page: the one now at `index` stands in it still. */
  detach(index: number): void {
    this.#elements.set(index * this.#stride + IS_DETACHED, 1);
  }

  isDetached(index: number): boolean {
    return this.#elements.get(index * this.#stride + IS_DETACHED) === 1;
  }

  /** The next element stands before the table at this index. */
  foster(table: number): void {
    if (table > 0 && this.#elements.get(table * this.#stride + IS_DETACHED) === 0)
      this.fosterParent = table - 1;
    else this.giveUp();
  }

  /** Where the next elements stand cannot be told: nothing more is found. */
  giveUp(): void {
    for (let i = 0; i < this.#words; i++) {
      this.#refuse(i, this.#pending.get(i));
      this.#pending.set(i, 0);
    }
  }

  /** The element at `index` is a copy of the one at `original`. */
  copy(index: number, original: number): void {
    const at = index * this.#stride;
    const from = original * this.#stride;
    this.#elements.reserve(at + this.#stride);
    for (let i = 0; i < this.#stride; i++) this.#elements.set(at + i, 0);
    for (let i = OWN; i < OWN + this.#words; i++) this.#elements.set(at + i, this.#elements.get(from + i));
  }

  /**
   * The adoption agency algorithm has moved elements: each from `first` on is the only child of the one below it, up to
   * the furthest block, whose children its new only child has taken.
   */
  adopted(first: number, furthest: number, top: number): void {
    for (let i = first; i <= top; i++)
      if (this.#elements.get(i * this.#stride + IS_DETACHED) === 1) {
        this.giveUp();
        return;
      }
    const block = furthest * this.#stride;
    const copy = block + this.#stride;
    const counters = OWN + 3 * this.#words;
    this.#elements.set(copy + CHILDREN, this.#elements.get(block + CHILDREN));
    for (let i = counters; i < this.#stride; i++) this.#elements.set(copy + i, this.#elements.get(block + i));
    for (let i = first; i <= furthest; i++) {
      const at = i * this.#stride;
      this.#elements.set(at + CHILDREN, 0);
      for (let j = counters; j < this.#stride; j++) this.#elements.set(at + j, 0);
    }
    for (let i = first; i <= top; i++) {
      const isFostered = i === first && this.fosterParent >= 0;
      const parent = isFostered ? this.fosterParent : i - 1;
      if (i <= furthest + 1) this.#place(i * this.#stride, parent, isFostered);
      this.#match(i * this.#stride, parent);
      if (i < furthest || i === furthest + 1) this.#find(i * this.#stride, false);
    }
    this.fosterParent = -1;
  }

  #fittingName(tag: number, word: number): number {
    const any = this.#anyName.get(word);
    return tag < Tag.Known ? any | this.#byName.get(tag * this.#words + word) : any;
  }

  /** Gives the element at `at` what it fits, and its place among its parent's children. */
  #enter(at: number, parent: number, tag: number, isInTemplate: boolean): void {
    const isTag = this.isTag;
    const isFostered = this.fosterParent >= 0;
    const copyOf = this.#copyOf;
    this.isTag = false;
    this.fosterParent = -1;
    this.#copyOf = -1;
    if (isInTemplate) return;
    for (let i = 0; i < this.#words; i++) {
      let own = this.#fittingName(tag, i);
      if (isTag) own = this.#tag.get(i);
      else if (copyOf >= 0) own = this.#kept.get(copyOf * this.#words + i);
      this.#elements.set(at + OWN + i, own);
    }
    this.#place(at, parent, isFostered);
    this.#match(at, parent);
    this.#find(at, isTag);
  }

  /** Counts the element among its parent's children; the table that it stands before moves up by one. */
  #place(at: number, parent: number, isFostered: boolean): void {
    let position = 1;
    let ofType = 1;
    if (parent >= 0) {
      const above = parent * this.#stride;
      position = this.#elements.get(above + CHILDREN) + 1;
      this.#elements.set(above + CHILDREN, position);
      if (isFostered) {
        position--;
        this.#moveTable(parent + 1, at);
      }
      const counters = OWN + 3 * this.#words;
      for (let step = 0; step < this.#stepCount; step++) {
        const counter = this.#counters.get(step);
        if (counter < 0 || !this.#has(at + OWN, step)) continue;
        const count = above + counters + counter;
        ofType = this.#elements.get(count) + 1;
        this.#elements.set(count, ofType);
      }
    }
    this.#elements.set(at + POSITION, position);
    this.#elements.set(at + POSITION_OF_TYPE, ofType);
  }

  /** The table at `index` has one more before it: what it and those in it fit may change. */
  #moveTable(index: number, end: number): void {
    const table = index * this.#stride;
    this.#elements.set(table + POSITION, this.#elements.get(table + POSITION) + 1);
    this.#match(table, index - 1);
    let around = index;
    for (let at = table + this.#stride; at < end; at += this.#stride) {
      if (this.#elements.get(at + IS_DETACHED) === 0) this.#match(at, around);
      around++;
    }
  }

  #has(words: number, step: number): boolean {
    return ((this.#elements.get(words + wordOf(step)) >> (step % BITS)) & 1) === 1;
  }

  /** The steps that the element at `at` fits in its parent. */
  #match(at: number, parent: number): void {
    const here = at + OWN + this.#words;
    const around = here + this.#words;
    const above = parent * this.#stride + OWN + this.#words;
    for (let i = 0; i < this.#words; i++) {
      const own = this.#elements.get(at + OWN + i);
      let fits = 0;
      if (own !== 0) {
        for (let bit = 0; bit < BITS; bit++)
          if (((own >> bit) & 1) === 1 && this.#fits(at, i * BITS + bit, parent, above)) fits |= 1 << bit;
      }
      this.#elements.set(here + i, fits);
      this.#elements.set(around + i, parent >= 0 ? fits | this.#elements.get(above + this.#words + i) : fits);
    }
  }

  #fits(at: number, step: number, parent: number, above: number): boolean {
    const kept = step * STEP;
    const child = this.#steps.get(kept + CHILD);
    if (child > 0 && this.#elements.get(at + POSITION) !== child) return false;
    const ofType = this.#steps.get(kept + OF_TYPE);
    if (ofType > 0 && this.#elements.get(at + POSITION_OF_TYPE) !== ofType) return false;
    const before = this.#steps.get(kept + BEFORE);
    if (before < 0) return true;
    if (parent < 0) return false;
    return this.#has(this.#steps.get(kept + IS_CHILD) === 1 ? above : above + this.#words, before);
  }

  /** Tells of the selectors whose first element this is. */
  #find(at: number, isTag: boolean): void {
    for (let i = 0; i < this.#words; i++) {
      const fits = this.#elements.get(at + OWN + this.#words + i) & this.#pending.get(i);
      if (fits === 0) continue;
      this.#pending.set(i, this.#pending.get(i) & ~fits);
      if (!isTag) {
        this.#refuse(i, fits);
        continue;
      }
      for (let bit = 0; bit < BITS; bit++) {
        if (((fits >> bit) & 1) === 0) continue;
        this.found.reserve(this.foundCount + 1);
        this.found.set(this.foundCount++, this.#steps.get((i * BITS + bit) * STEP + SELECTOR));
      }
    }
  }

  #refuse(word: number, steps: number): void {
    for (let bit = 0; bit < BITS; bit++) {
      if (((steps >> bit) & 1) === 0) continue;
      this.refused.reserve(this.refusedCount + 1);
      this.refused.set(this.refusedCount++, this.#steps.get((word * BITS + bit) * STEP + SELECTOR));
    }
  }
}

function wordOf(step: number): number {
  return (step - (step % BITS)) / BITS;
}
