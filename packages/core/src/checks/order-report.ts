import type { Dependency, PlacementOrder, Rearrangement } from '../order/index.js';
import { partName, type Snapshot } from '../snapshot/index.js';
import { ORDER_TEXTS } from '../texts/order.js';
import { say } from '../texts/say.js';
import { applyChanges, type SetChange } from '../edit/index.js';
import { CheckedSet } from './checked-set.js';
import type { Knowledge } from './knowledge.js';
import { makerName } from './page-code.js';
import { pageNeeds, type PageNeed } from './page-needs.js';
import type { ReadPart } from './read-part.js';

export interface OrderReport {
  /** All that the running parts need of each other. */
  readonly dependencies: readonly Dependency<ReadPart>[];
  /** What they need of the pages themselves. */
  readonly ofPages: readonly PageNeed[];
  /** How the whole set comes into the right order. */
  readonly right: Rearrangement<ReadPart>;
  /** The one change that does it; undefined where nothing is to be moved. */
  readonly change: SetChange | undefined;
}

/** What needs what in a set, whether the order is right, and the fewest moves that make it right. */
export function orderReport(snapshot: Snapshot, knowledge: Knowledge = {}): OrderReport {
  const set = CheckedSet.of(snapshot, knowledge);
  const { dependencies, right } = set.order;
  const { moves, lists } = right;
  const change: SetChange | undefined =
    moves.length === 0 ? undefined : { kind: 'arrange', lists, moved: moves.map(({ part }) => part.key) };
  return { dependencies, ofPages: pageNeeds(set), right, change };
}

/** What a part needs of its pages, in words: `“Calendar” uses “Tidebook”, which /fares brings itself (/lib/tidebook.js)`. */
export function pageNeedWords({ part, use, definer, page }: PageNeed): string {
  return say(ORDER_TEXTS.pageBringsName, {
    part: partName(part),
    name: use.name,
    page,
    maker: makerName(definer),
  });
}

/** What would be wrong or a race if a placement had this order, and is not now. */
export function worseOrder(
  snapshot: Snapshot,
  list: PlacementOrder,
  knowledge: Knowledge = {},
): Dependency<ReadPart>[] {
  const moved = applyChanges(snapshot, [{ kind: 'arrange', lists: [list], moved: [] }]);
  const known = new Set(orderReport(snapshot, knowledge).dependencies.filter(isBad).map(identity));
  return orderReport(moved, knowledge).dependencies.filter(
    (dependency) => isBad(dependency) && !known.has(identity(dependency)),
  );
}

function isBad({ verdict }: Dependency): boolean {
  return verdict !== 'fine';
}

function identity({ first, then, verdict }: Dependency): string {
  return `${first.key} ${then.key} ${verdict}`;
}
