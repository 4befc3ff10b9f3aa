import type { CheckedSet } from './checked-set.js';
import type { ReadSnippet } from './read-set.js';
import { WITH_ALL, type Tie } from './tie.js';

/** Which snippets of a set hang together by a tie. */
export class TiedSnippets {
  readonly #tie: Tie;
  readonly #words = new Map<string, readonly string[]>();
  /** By word: the one snippet that has it, as most words are of one, or all that have. */
  readonly #bearers = new Map<string, string | Set<string>>();
  readonly #withAll = new Set<string>();

  constructor(tie: Tie) {
    this.#tie = tie;
  }

  add(snippet: ReadSnippet, set: CheckedSet): void {
    const { key } = snippet.own;
    const words = this.#tie(snippet, set);
    if (words === WITH_ALL) {
      this.#withAll.add(key);
      return;
    }
    if (words.length === 0) return;
    this.#words.set(key, words);
    for (const word of words) {
      const bearers = this.#bearers.get(word);
      if (bearers === undefined) this.#bearers.set(word, key);
      else if (typeof bearers !== 'string') bearers.add(key);
      else if (bearers !== key) this.#bearers.set(word, new Set([bearers, key]));
    }
  }

  /** Keys of the snippets that an edit may matter to. @param changed - those that differ; they are then as in `set` */
  touchedBy(changed: ReadonlySet<string>, set: CheckedSet): Set<string> {
    const words = this.#wordsOf(changed);
    const touched = this.#bearersOf(words, new Set(this.#withAll));
    for (const key of changed) {
      this.#remove(key);
      const now = set.snippets.get(key);
      if (now) this.add(now, set);
    }
    return this.#bearersOf(this.#wordsOf(changed), touched);
  }

  /** Adds those that hang together with some; undefined where that is all of them. */
  addNear(keys: Iterable<string>, near: Set<string>): Set<string> | undefined {
    for (const key of this.#withAll.size > 0 ? keys : []) if (this.#withAll.has(key)) return undefined;
    return this.#bearersOf(this.#wordsOf(keys), near);
  }

  /** Each once: of many snippets with one word its bearers are gone through once. */
  #wordsOf(keys: Iterable<string>): Set<string> {
    const words = new Set<string>();
    for (const key of keys) for (const word of this.#words.get(key) ?? []) words.add(word);
    return words;
  }

  #bearersOf(words: Iterable<string>, found: Set<string>): Set<string> {
    for (const word of words) {
      const bearers = this.#bearers.get(word);
      if (typeof bearers === 'string') found.add(bearers);
      else for (const bearer of bearers ?? []) found.add(bearer);
    }
    return found;
  }

  #remove(key: string): void {
    this.#withAll.delete(key);
    for (const word of this.#words.get(key) ?? []) {
      const bearers = this.#bearers.get(word);
      if (typeof bearers === 'object') bearers.delete(key);
      if (bearers === key || (typeof bearers === 'object' && bearers.size === 0)) this.#bearers.delete(word);
    }
    this.#words.delete(key);
  }
}
