import {
  Precedences,
  findDependencies,
  moveTitle,
  rightOrder,
  type Dependency,
  type OrderSet,
  type Rearrangement,
} from '../order/index.js';
import type { ReadPart } from './read-part.js';
import type { Fix } from './finding.js';

/** What the parts of a set need of each other, and how they come into the right order. */
export class SetOrder {
  readonly dependencies: readonly Dependency<ReadPart>[];
  readonly #all: readonly ReadPart[];
  readonly #groups = new Map<string, Rearrangement<ReadPart>>();
  #components: ReadonlyMap<string, readonly string[]> | undefined;

  constructor(set: OrderSet<ReadPart> & { readonly parts: readonly ReadPart[] }) {
    this.dependencies = findDependencies(set);
    this.#all = set.parts;
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
  fixFor(dependency: Dependency<ReadPart>): Fix | undefined {
    if (!dependency.isByOrder) return undefined;
    const { moves, lists, left, cycles } = this.around(dependency);
    const isInCircle = cycles.some(
      (cycle) => cycle.includes(dependency.first) && cycle.includes(dependency.then),
    );
    if (moves.length === 0 || isInCircle || left.includes(dependency)) return undefined;
    const [only] = moves;
    return {
      title: moves.length === 1 ? `${moveTitle(only!)}.` : `Put in the right order: ${moves.length} moves.`,
      changes: [{ kind: 'arrange', lists, moved: moves.map(({ part }) => part.key) }],
    };
  }

  /** The whole set in the right order. */
  get right(): Rearrangement<ReadPart> {
    return rightOrder(this.#all, this.dependencies);
  }
}
