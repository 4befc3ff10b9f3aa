import { Precedences, moveTitle, rightOrder, type Dependency, type Rearrangement } from '../order/index.js';
import type { SetChange } from '../edit/index.js';
import type { ReadPart } from './read-part.js';

/** What the fix of an order does, for what a check's message says of it. */
export const ORDER_FIX = '{moves, plural, one {{move}.} other {Fix the order (# moves).}}';

/** For a message whose order has no fix. */
export const NO_MOVES = { moves: 0, move: '' };

export interface OrderFix {
  readonly fix: readonly SetChange[];
  readonly params: { readonly moves: number; readonly move: string };
}

/** What the parts of a set need of each other, and how they come into the right order. */
export class SetOrder {
  readonly dependencies: readonly Dependency<ReadPart>[];
  readonly #all: readonly ReadPart[];
  readonly #groups = new Map<string, Rearrangement<ReadPart>>();
  #components: ReadonlyMap<string, readonly string[]> | undefined;

  /** @param all - all parts of the set in page order, also those of snippets that are off */
  constructor(dependencies: readonly Dependency<ReadPart>[], all: readonly ReadPart[]) {
    this.dependencies = dependencies;
    this.#all = all;
  }

  /** How the parts that have to do with these two come into order; groups are worked out apart. */
  around({ first }: Dependency<ReadPart>): Rearrangement<ReadPart> {
    this.#components ??= new Map(
      new Precedences(this.dependencies.map(({ first, then }) => [first.key, then.key]))
        .components()
        .flatMap((group) => group.map((key) => [key, group] as const)),
    );
    const group = this.#components.get(first.key)!;
    let found = this.#groups.get(group[0]!);
    if (!found) {
      const keys = new Set(group);
      const own = this.dependencies.filter((dependency) => keys.has(dependency.first.key));
      this.#groups.set(group[0]!, (found = rightOrder(this.#all, own)));
    }
    return found;
  }

  /** Puts right what is wrong with a dependency, together with all that it hangs together with. */
  fixFor(dependency: Dependency<ReadPart>): OrderFix | undefined {
    if (!dependency.isByOrder) return undefined;
    const { moves, lists, left, cycles } = this.around(dependency);
    const isInCircle = cycles.some(
      (cycle) => cycle.includes(dependency.first) && cycle.includes(dependency.then),
    );
    if (moves.length === 0 || isInCircle || left.includes(dependency)) return undefined;
    const [only] = moves;
    return {
      fix: [{ kind: 'arrange', lists, moved: moves.map(({ part }) => part.key) }],
      params: { moves: moves.length, move: moveTitle(only!) },
    };
  }

  /** Parts that need each other in a circle: no order is right for them. */
  get cycles(): readonly (readonly ReadPart[])[] {
    const ordered = this.dependencies.filter(({ isByOrder }) => isByOrder);
    const byKey = new Map(
      ordered.flatMap(({ first, then }) => [first, then].map((part) => [part.key, part])),
    );
    return new Precedences(ordered.map(({ first, then }) => [first.key, then.key]))
      .cycles()
      .map((group) => group.map((key) => byKey.get(key)!));
  }

  /** The whole set in the right order. */
  get right(): Rearrangement<ReadPart> {
    return rightOrder(this.#all, this.dependencies);
  }
}
