import { findDependencies, type Dependency } from '../order/index.js';
import type { Snapshot } from '../snapshot/index.js';
import type { Check } from './check.js';
import type { CheckedSet } from './checked-set.js';
import type { Finding } from './finding.js';
import { grouped } from './groups.js';
import { findingsHoldUntil } from './hold-until.js';
import type { Knowledge } from './knowledge.js';
import type { ReadPart } from './read-part.js';
import { SetOrder } from './set-order.js';
import type { Tie } from './tie.js';
import { TiedSnippets } from './tied-snippets.js';
import { BY_NEED } from './ties/by-need.js';

/** A finding, and where what it is about first stands in the page. */
export interface PlacedFinding {
  readonly finding: Finding;
  readonly position: number;
}

/** What a check finds, by which of its functions. */
export interface FoundByCheck {
  readonly run: readonly PlacedFinding[];
  readonly runOnWhole: readonly PlacedFinding[];
}

/** Runs one of a check's two functions; nothing is found by one that it does not have. */
export type RunCheck = (check: Check, by: keyof FoundByCheck, set: CheckedSet) => readonly PlacedFinding[];

/** Snippets that an edit may matter to by some ties, and the set as they see it. */
interface Touched {
  readonly keys: ReadonlySet<string>;
  readonly view: CheckedSet;
}

/** Where an edit touches more of a set than this, all of it is looked at. */
const MOST_TOUCHED = 0.5;

/**
 * What the checks found in a set, kept so that after an edit only what the edit touches is looked at again. What comes
 * out is what looking at all of the set would find.
 */
export class FoundSoFar {
  readonly #run: RunCheck;
  readonly #tied = new Map<Tie, TiedSnippets>();
  readonly #found = new Map<Check, FoundByCheck>();
  #set: CheckedSet;
  #holdsUntil: number;
  #needs: ReadonlyMap<string, readonly Dependency<ReadPart>[]>;

  /** @param found - what looking at all of the set has found */
  constructor(set: CheckedSet, found: ReadonlyMap<Check, FoundByCheck>, run: RunCheck) {
    this.#set = set;
    this.#run = run;
    this.#found = new Map(found);
    this.#holdsUntil = findingsHoldUntil(set.snapshot, set.now);
    this.#needs = grouped(set.order.dependencies, needing);
    for (const tie of new Set([...BY_NEED, ...[...found.keys()].flatMap(({ ties = [] }) => ties)]))
      this.#tied.set(tie, new TiedSnippets(tie));
    // Snippet by snippet, for what was read out of one lies close together.
    for (const snippet of set.snippets.values())
      for (const tied of this.#tied.values()) tied.add(snippet, set);
  }

  /**
   * What the checks find after an edit. Of a later moment at which hours are what they were, what was true of the
   * earlier one is told.
   *
   * @returns undefined where all has to be looked at
   */
  after(snapshot: Snapshot, knowledge: Knowledge): ReadonlyMap<Check, FoundByCheck> | undefined {
    const { now = 0 } = knowledge;
    if (now !== this.#set.now && !(now > this.#set.now && now < this.#holdsUntil)) return undefined;
    const before = this.#set;
    const edited = before.edited(snapshot, knowledge);
    if (!edited) return undefined;
    const { set, changed } = edited;
    this.#set = set;
    const differing = { ...snapshot, snippets: snapshot.snippets.filter(({ key }) => changed.has(key)) };
    this.#holdsUntil = Math.min(this.#holdsUntil, findingsHoldUntil(differing, set.now));
    const touchedBy = new Map([...this.#tied].map(([tie, tied]) => [tie, tied.touchedBy(changed, set)]));
    const touched = (ties: readonly Tie[]): Touched =>
      this.#seen(new Set([...changed, ...ties.flatMap((tie) => [...touchedBy.get(tie)!])]), ties);
    this.#order(before, touched(BY_NEED));
    const views = new Map<string, Touched>();
    const numbers = new Map([...this.#tied.keys()].map((tie, number) => [tie, number]));
    for (const [check, found] of this.#found) {
      const { ties = [] } = check;
      const signature = ties.map((tie) => numbers.get(tie)).join();
      let seen = views.get(signature);
      if (!seen) views.set(signature, (seen = touched(ties)));
      this.#found.set(check, this.#again(check, found, seen));
    }
    return this.#found;
  }

  /** Some snippets as a check with these ties sees them. */
  #seen(keys: ReadonlySet<string>, ties: readonly Tie[]): Touched {
    const set = this.#set;
    if (keys.size > set.snippets.size * MOST_TOUCHED) return { keys, view: set };
    let near: Set<string> | undefined = new Set(keys);
    for (const tie of ties) near &&= this.#tied.get(tie)!.addNear(keys, near);
    return { keys, view: set.only(keys, near) };
  }

  /** What needs what: worked out again for those that the edit touches. */
  #order(before: CheckedSet, { keys, view }: Touched): void {
    const set = this.#set;
    if (view === set) {
      this.#needs = grouped(set.order.dependencies, needing);
      return;
    }
    const needs = new Map(this.#needs);
    for (const key of keys) for (const part of before.snippets.get(key)?.parts ?? []) needs.delete(part.key);
    for (const [key, own] of grouped(findDependencies(view.asNear(), view.running), needing))
      needs.set(key, own);
    this.#needs = needs;
    const all = needs.size === 0 ? [] : set.running.flatMap(({ key }) => needs.get(key) ?? []);
    set.inOrder(new SetOrder(all, set.parts));
  }

  #again(check: Check, found: FoundByCheck, seen: Touched): FoundByCheck {
    const set = this.#set;
    const runOnWhole = check.runOnWhole ? this.#run(check, 'runOnWhole', set) : found.runOnWhole;
    if (!check.run) return { run: found.run, runOnWhole };
    const keys = withSubjects(seen.keys, found.run);
    const { view } = keys.size === seen.keys.size ? seen : this.#seen(keys, check.ties ?? []);
    if (view === set) return { run: this.#run(check, 'run', set), runOnWhole };
    const isTouched = (one: PlacedFinding): boolean => isAboutAny(one, keys);
    const kept = found.run.some(isTouched) ? found.run.filter((one) => !isTouched(one)) : found.run;
    const now = this.#run(check, 'run', view).filter(isTouched);
    const run = now.length === 0 ? kept : [...kept, ...now].sort((a, b) => a.position - b.position);
    return { run, runOnWhole };
  }
}

/** Some snippets with all that findings are about together with them: what is found anew is found of all of these. */
function withSubjects(keys: ReadonlySet<string>, found: readonly PlacedFinding[]): ReadonlySet<string> {
  const all = new Set(keys);
  for (let size = -1; size < all.size;) {
    size = all.size;
    for (const one of found)
      if (one.finding.subjects.length > 1 && isAboutAny(one, all))
        for (const { snippet } of one.finding.subjects) all.add(snippet);
  }
  return all;
}

function isAboutAny({ finding }: PlacedFinding, keys: ReadonlySet<string>): boolean {
  return finding.subjects.some(({ snippet }) => keys.has(snippet));
}

const needing = ({ then }: Dependency<ReadPart>): string => then.key;
