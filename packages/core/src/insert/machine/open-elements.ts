import { Is, type Classes } from './classes.js';
import type { FormattingList } from './formatting.js';
import { Ints } from './memory.js';
import type { Selection } from './selection.js';
import { Tag } from './tags.js';

/** Namespaces of open elements. */
export const enum Ns {
  Html,
  Svg,
  Math,
}

/** How an open element is packed into a number: its tag, its namespace, and whether it is an annotation of HTML. */
const NS_SHIFT = 20;
const TAG_MASK = (1 << NS_SHIFT) - 1;
const HTML_ANNOTATION = 1 << 24;

/** A page that nests deeper is given up: browsers flatten it long before. */
const MAX_DEPTH = 20_000;

/**
 * The stack of open elements (HTML Standard 13.2.4.2) without nodes. Elements have numbers, so that the list of active
 * formatting elements can name them.
 */
export class OpenElements {
  /** Index of the current node; -1 for none. */
  top: number = -1;
  templates: number = 0;
  overflow: boolean = false;
  readonly #keys: Ints = new Ints(256);
  readonly #uids: Ints = new Ints(256);
  /** Open HTML elements by known tag, so that most searches need not begin. */
  readonly #counts: Ints = new Ints(Tag.Known);
  readonly #classes: Classes;
  readonly #formatting: FormattingList;
  readonly #selection: Selection;
  /** The lowest element that was popped since `lowest` was set: its index and its tag. */
  lowest: number = 0;
  lowestTag: number = 0;
  /** The number of the next element. */
  nextUid: number = 1;

  constructor(classes: Classes, formatting: FormattingList, selection: Selection) {
    this.#classes = classes;
    this.#formatting = formatting;
    this.#selection = selection;
  }

  reset(): void {
    while (this.top >= 0) this.pop();
    this.nextUid = 1;
    this.overflow = false;
  }

  tag(index: number): number {
    return this.#keys.get(index) & TAG_MASK;
  }

  ns(index: number): number {
    return (this.#keys.get(index) >> NS_SHIFT) & 3;
  }

  uid(index: number): number {
    return this.#uids.get(index);
  }

  /** The tag of the current node if it is an HTML element, or -1. */
  currentHtmlTag(): number {
    if (this.top < 0) return -1;
    const key = this.#keys.get(this.top);
    return key >> NS_SHIFT === 0 ? key : -1;
  }

  currentNs(): number {
    return this.top < 0 ? Ns.Html : (this.#keys.get(this.top) >> NS_SHIFT) & 3;
  }

  /** Whether the current node is an HTML integration point (13.2.6). */
  isHtmlIntegrationPoint(): boolean {
    const key = this.#keys.get(this.top);
    if ((key & HTML_ANNOTATION) !== 0) return true;
    if (key >> NS_SHIFT !== Ns.Svg) return false;
    const tag = key & TAG_MASK;
    return tag === Tag.Foreignobject || tag === Tag.Desc || tag === Tag.Title;
  }

  isMathTextIntegrationPoint(): boolean {
    const key = this.#keys.get(this.top);
    if (((key >> NS_SHIFT) & 3) !== Ns.Math) return false;
    const tag = key & TAG_MASK;
    return tag >= Tag.Mi && tag <= Tag.Mtext;
  }

  /** Whether what is written at the current node becomes part of a drawing or a formula. */
  isForeign(): boolean {
    return (
      this.currentNs() !== Ns.Html && !this.isHtmlIntegrationPoint() && !this.isMathTextIntegrationPoint()
    );
  }

  /** @returns the number of the new element */
  push(tag: number, ns: number, isHtmlAnnotation: boolean): number {
    if (this.#selection.isOn) this.#selection.open(this.top + 1, tag, this.templates > 0);
    return this.#push(tag, ns, isHtmlAnnotation);
  }

  #push(tag: number, ns: number, isHtmlAnnotation: boolean): number {
    if (this.top >= MAX_DEPTH) {
      this.overflow = true;
      return 0;
    }
    this.top++;
    if (this.top >= this.#keys.length) {
      this.#keys.reserve(this.top + 1);
      this.#uids.reserve(this.top + 1);
    }
    const uid = this.nextUid++;
    this.#keys.set(this.top, tag | (ns << NS_SHIFT) | (isHtmlAnnotation ? HTML_ANNOTATION : 0));
    this.#uids.set(this.top, uid);
    if (ns === Ns.Html) this.#count(tag, 1);
    return uid;
  }

  /** `push` for a part of a table, which is neither a template nor foreign, where there is room. */
  pushTablePart(tag: number): void {
    const top = this.top + 1;
    if (top >= this.#keys.length) {
      this.#keys.reserve(top + 1);
      this.#uids.reserve(top + 1);
    }
    this.top = top;
    this.#keys.set(top, tag);
    this.#uids.set(top, this.nextUid++);
    this.#counts.set(tag, this.#counts.get(tag) + 1);
  }

  /** `pop` for a part of a table. */
  popTablePart(tag: number): void {
    const top = this.top;
    this.#counts.set(tag, this.#counts.get(tag) - 1);
    if (top < this.lowest) {
      this.lowest = top;
      this.lowestTag = tag;
    }
    this.top = top - 1;
  }

  pop(): void {
    const key = this.#keys.get(this.top);
    this.#left(key, this.#uids.get(this.top));
    if (this.top < this.lowest) {
      this.lowest = this.top;
      this.lowestTag = key & TAG_MASK;
    }
    this.top--;
  }

  removeAt(index: number): void {
    this.#left(this.#keys.get(index), this.#uids.get(index));
    const after = this.top - index;
    if (after > 0) {
      this.#keys.move(index, index + 1, after);
      this.#uids.move(index, index + 1, after);
      if (this.#selection.isOn) this.#selection.move(index, index + 1, after);
    }
    this.top--;
  }

  /** Puts an HTML element right above the one at `index`. @returns its number */
  insertAbove(index: number, tag: number): number {
    const uid = this.#push(tag, Ns.Html, false);
    if (uid === 0) return 0;
    const after = this.top - index - 1;
    if (after > 0) {
      const key = this.#keys.get(this.top);
      this.#keys.move(index + 2, index + 1, after);
      this.#uids.move(index + 2, index + 1, after);
      this.#keys.set(index + 1, key);
      this.#uids.set(index + 1, uid);
      if (this.#selection.isOn) this.#selection.moveUp(index + 1, after);
    }
    return uid;
  }

  /** The element at `index` becomes another one of the same name. @returns its number */
  renew(index: number): number {
    const uid = this.nextUid++;
    this.#uids.set(index, uid);
    return uid;
  }

  /** Leaves `length` elements open. */
  cut(length: number): void {
    while (this.top >= length) this.pop();
  }

  isOpen(tag: number): boolean {
    return tag >= Tag.Known || this.#counts.get(tag) > 0;
  }

  /** The index of the topmost HTML element with this tag, or -1. */
  topmost(tag: number): number {
    if (!this.isOpen(tag)) return -1;
    for (let i = this.top; i >= 0; i--) if (this.#keys.get(i) === tag) return i;
    return -1;
  }

  /** The same among those below `end`. */
  topmostBelow(end: number, tag: number): number {
    for (let i = end - 1; i >= 0; i--) if (this.#keys.get(i) === tag) return i;
    return -1;
  }

  indexOf(uid: number): number {
    for (let i = this.top; i >= 0; i--) if (this.#uids.get(i) === uid) return i;
    return -1;
  }

  /** Pops down to and with the topmost HTML element with this tag; all of the page when there is none. */
  popUntil(tag: number): void {
    const index = this.topmost(tag);
    this.cut(index < 0 ? 0 : index);
  }

  /** "Has an element in the specific scope" (13.2.4.2) for a tag; `more` are the barriers beside those of every scope. */
  inScope(tag: number, more: number): boolean {
    return this.inScopeAt(this.top, tag, more);
  }

  /** The same as if the element at `index` were the current node. */
  inScopeAt(index: number, tag: number, more: number): boolean {
    if (!this.isOpen(tag)) return false;
    const barriers = Is.Scope | more;
    for (let i = index; i >= 0; i--) {
      const key = this.#keys.get(i);
      if (key === tag) return true;
      if (this.#is(key, barriers)) return false;
    }
    return false;
  }

  /** Whether this very element is in scope. */
  elementInScope(index: number): boolean {
    for (let i = this.top; i > index; i--) if (this.#is(this.#keys.get(i), Is.Scope)) return false;
    return true;
  }

  inTableScope(tag: number): boolean {
    if (!this.isOpen(tag)) return false;
    for (let i = this.top; i >= 0; i--) {
      const key = this.#keys.get(i);
      if (key === tag) return true;
      if (key >> NS_SHIFT === 0 && this.#classes.is(key, Is.TableScope)) return false;
    }
    return false;
  }

  /** Only option and optgroup may stand above the select (the Standard before customizable selects). */
  selectInScope(): boolean {
    for (let i = this.top; i >= 0; i--) {
      const key = this.#keys.get(i);
      if (key >> NS_SHIFT !== 0) continue;
      if (key === Tag.Select) return true;
      if (key !== Tag.Option && key !== Tag.Optgroup) return false;
    }
    return false;
  }

  /** The topmost h1 to h6 that is in scope, or -1. */
  headingInScope(): number {
    for (let i = this.top; i >= 0; i--) {
      const key = this.#keys.get(i);
      if (this.#isHtml(key, Is.Heading)) return i;
      if (this.#is(key, Is.Scope)) return -1;
    }
    return -1;
  }

  /** The topmost HTML element with one of these bits, or -1. */
  topmostWith(bits: number): number {
    for (let i = this.top; i >= 0; i--) if (this.#isHtml(this.#keys.get(i), bits)) return i;
    return -1;
  }

  /** The lowest special element above `index`, or -1. */
  specialAbove(index: number): number {
    for (let i = index + 1; i <= this.top; i++) if (this.#is(this.#keys.get(i), Is.Special)) return i;
    return -1;
  }

  hasItemBoundaryAbove(index: number): boolean {
    for (let i = this.top; i > index; i--) if (this.#is(this.#keys.get(i), Is.ItemBoundary)) return true;
    return false;
  }

  currentIs(bits: number): boolean {
    return this.is(this.top, bits);
  }

  /** Whether the one at `index` is an HTML element with one of these bits. */
  is(index: number, bits: number): boolean {
    return index >= 0 && this.#isHtml(this.#keys.get(index), bits);
  }

  /** "Generate implied end tags", except for `except` (-1: no exception). */
  impliedEnds(bits: number, except: number): void {
    while (this.currentIs(bits) && this.#keys.get(this.top) !== except) this.pop();
  }

  #isHtml(key: number, bits: number): boolean {
    return key >> NS_SHIFT === 0 && this.#classes.is(key, bits);
  }

  /** Bits of an element of any namespace: of foreign ones only integration points have some. */
  #is(key: number, bits: number): boolean {
    const ns = (key >> NS_SHIFT) & 3;
    if (ns === Ns.Html) return this.#classes.is(key, bits);
    if ((bits & (Is.Special | Is.Scope | Is.ItemBoundary)) === 0) return false;
    const tag = key & TAG_MASK;
    if (ns === Ns.Svg) return tag === Tag.Foreignobject || tag === Tag.Desc || tag === Tag.Title;
    return (tag >= Tag.Mi && tag <= Tag.Mtext) || tag === Tag.AnnotationXml;
  }

  #left(key: number, uid: number): void {
    if (key >> NS_SHIFT !== 0) return;
    this.#count(key, -1);
    if (this.#classes.is(key, Is.Formatting)) this.#formatting.closed(uid);
  }

  #count(tag: number, by: number): void {
    if (tag >= Tag.Known) return;
    this.#counts.set(tag, this.#counts.get(tag) + by);
    if (tag === Tag.Template) this.templates += by;
  }
}
