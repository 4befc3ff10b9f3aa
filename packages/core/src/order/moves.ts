import { placementKey, type NamedPlacement, type Placement } from '../insert/index.js';
import { placementOfStatement } from '../facts/index.js';
import { placementPosition } from '../snapshot/index.js';
import { allowedPlacements } from './allowed-placements.js';
import { minimumWeightVertexCover } from './vertex-cover.js';
import type { Dependency, OrderPart } from './dependencies.js';
import { Precedences } from './graph.js';
import type { PlacementOrder } from './move.js';

/** One part that is moved, and where to. */
export interface Move<P extends OrderPart = OrderPart> {
  readonly part: P;
  readonly placement: Placement;
  /** The dependency that asks for it. */
  readonly because: Dependency<P>;
  /** The part that it then stands next to, on the side that matters. */
  readonly next: { readonly side: 'before' | 'after'; readonly part: P };
}

export interface Rearrangement<P extends OrderPart = OrderPart> {
  readonly moves: readonly Move<P>[];
  /** The order of all placements that change, with every part that stands there then. */
  readonly lists: readonly PlacementOrder[];
  /** Parts that need each other in a circle: no order is right for them. */
  readonly cycles: readonly (readonly P[])[];
  /** What stays wrong, because neither of the two can be moved. */
  readonly left: readonly Dependency<P>[];
}

/**
 * The fewest moves that put parts in order, all others staying where they are. Of several smallest sets, one that leaves
 * alone what others need, and what stands where its provider wants it.
 *
 * A set of parts may stay if no two of them stand the wrong way round, also by way of others; the pairs that do are a
 * partial order, so the smallest set to move is found exactly. The rest always leaves room for what moves.
 *
 * @param all - all parts in page order, also those that are off: they keep their places too
 */
export function rightOrder<P extends OrderPart>(
  all: readonly P[],
  dependencies: readonly Dependency<P>[],
): Rearrangement<P> {
  const byKey = new Map(all.map((part) => [part.key, part]));
  const ordered = dependencies.filter(({ isByOrder }) => isByOrder);
  const everything = new Precedences(ordered.map(({ first, then }) => [first.key, then.key]));
  const cycles = everything.cycles();
  const inCycle = new Map(cycles.flatMap((group, index) => group.map((key) => [key, index])));
  const usable = ordered.filter(
    ({ first, then }) => !inCycle.has(first.key) || inCycle.get(first.key) !== inCycle.get(then.key),
  );
  const result = {
    moves: [] as Move<P>[],
    cycles: cycles.map((group) => group.map((key) => byKey.get(key)!)),
    left: [] as Dependency<P>[],
  };
  const line: Slot<P>[] = all.map((part) => ({ part, placement: part.part.placement }));
  const precedences = new Precedences(usable.map(({ first, then }) => [first.key, then.key]));
  const wrong = new Set(
    usable.filter(({ verdict }) => verdict !== 'fine').flatMap(({ first, then }) => [first.key, then.key]),
  );
  for (const group of precedences.components()) {
    if (!group.some((key) => wrong.has(key))) continue;
    const keys = new Set(group);
    const own = usable.filter(({ first }) => keys.has(first.key));
    const fixed = orderGroup(line, own, byKey);
    result.moves.push(...fixed.moves);
    result.left.push(...fixed.left);
  }
  return { ...result, lists: changedLists(all, line) };
}

interface Slot<P extends OrderPart> {
  readonly part: P;
  readonly placement: Placement;
}

/** Moves the parts of one group within `line`. */
function orderGroup<P extends OrderPart>(
  line: Slot<P>[],
  dependencies: readonly Dependency<P>[],
  byKey: ReadonlyMap<string, P>,
): { moves: Move<P>[]; left: Dependency<P>[] } {
  const fixed = new Set<string>();
  for (;;) {
    const before = [...line];
    const outcome = tryMoves(line, dependencies, byKey, fixed);
    if ('moves' in outcome) return { moves: outcome.moves, left: [] };
    line.splice(0, line.length, ...before);
    // What cannot be put where it would have to go stays, and something else moves instead.
    if (outcome.stuck === undefined || fixed.has(outcome.stuck))
      return { moves: [], left: dependencies.filter(({ verdict }) => verdict !== 'fine') };
    fixed.add(outcome.stuck);
  }
}

/** Far above what any sum of preferences comes to. */
const ONE_MOVE = 1_000_000;

function tryMoves<P extends OrderPart>(
  line: Slot<P>[],
  dependencies: readonly Dependency<P>[],
  byKey: ReadonlyMap<string, P>,
  fixed: ReadonlySet<string>,
): { moves: Move<P>[] } | { stuck: string | undefined } {
  const precedences = new Precedences(dependencies.map(({ first, then }) => [first.key, then.key]));
  const closure = precedences.closure();
  const keys = precedences.keys;
  const numbers = new Map(keys.map((key, number) => [key, number]));
  const position = new Map(line.map(({ part }, at) => [part.key, at]));
  const cannotMove = (key: string): boolean =>
    fixed.has(key) || allowedPlacements(byKey.get(key)!).length === 0;
  const weights = keys.map((key) =>
    cannotMove(key)
      ? ONE_MOVE * (keys.length + 1)
      : ONE_MOVE + reluctance(byKey.get(key)!, closure.get(key)!.size > 0),
  );
  const wrongWay = keys.map((key) =>
    [...closure.get(key)!]
      .filter((then) => position.get(key)! > position.get(then)!)
      .map((then) => numbers.get(then)!),
  );
  const chosen = minimumWeightVertexCover(weights, wrongWay).map((number) => keys[number]!);
  const blocked = chosen.find(cannotMove);
  if (blocked !== undefined) return { stuck: undefined };
  const moving = new Set(chosen);
  for (let at = line.length - 1; at >= 0; at--) if (moving.has(line[at]!.part.key)) line.splice(at, 1);
  // In the order of their needs, so that what is placed first is what the others stand behind.
  const inOrder = chosen.sort((a, b) => closure.get(b)!.size - closure.get(a)!.size);
  const moves: Move<P>[] = [];
  for (const key of inOrder) {
    const part = byKey.get(key)!;
    const place = findPlace(line, part, closure);
    if (!place) return { stuck: key };
    line.splice(place.at, 0, { part, placement: place.placement });
    moves.push({ part, placement: place.placement, ...reasonFor(line, part, place.at, dependencies) });
  }
  return { moves };
}

/** What makes it better to move something else, where the number of moves is the same. */
function reluctance({ part, facts }: OrderPart, isNeeded: boolean): number {
  const said = part.statement === undefined ? undefined : placementOfStatement(part.statement);
  return (
    (isNeeded ? 2 : 0) +
    (said !== undefined && said === placementKey(part.placement) ? 4 : 0) +
    (facts.shape.kind === 'consent' || facts.shape.kind === 'container' ? 4 : 0)
  );
}

/**
 * Where a part fits behind all that it needs and in front of all that need it: in its own placement if it can be,
 * otherwise in the nearest, and there next to where it was.
 */
function findPlace<P extends OrderPart>(
  line: readonly Slot<P>[],
  part: P,
  closure: ReadonlyMap<string, ReadonlySet<string>>,
): { at: number; placement: NamedPlacement } | undefined {
  let from = 0;
  let to = line.length;
  line.forEach(({ part: other }, at) => {
    if (closure.get(other.key)?.has(part.key)) from = Math.max(from, at + 1);
    if (closure.get(part.key)!.has(other.key)) to = Math.min(to, at);
  });
  const home = line.findIndex(({ part: other }) => other.position > part.position);
  const near = home < 0 ? line.length : home;
  let best: { at: number; placement: NamedPlacement; cost: readonly [number, number] } | undefined;
  for (const placement of allowedPlacements(part)) {
    const wanted = placementPosition(placement);
    for (let at = from; at <= to; at++) {
      const [left, right] = [line[at - 1], line[at]];
      if (
        (left && placementPosition(left.placement) > wanted) ||
        (right && placementPosition(right.placement) < wanted)
      )
        continue;
      const cost = [Math.abs(wanted - placementPosition(part.part.placement)), Math.abs(at - near)] as const;
      if (!best || cost[0] < best.cost[0] || (cost[0] === best.cost[0] && cost[1] < best.cost[1]))
        best = { at, placement, cost };
    }
  }
  return best;
}

/** The nearest neighbour that it has to do with, and why. */
function reasonFor<P extends OrderPart>(
  line: readonly Slot<P>[],
  part: P,
  at: number,
  dependencies: readonly Dependency<P>[],
): Pick<Move<P>, 'because' | 'next'> {
  const position = new Map(line.map((slot, index) => [slot.part.key, index]));
  const own = dependencies.filter(({ first, then }) => first === part || then === part);
  const distance = ({ first, then }: Dependency<P>): number =>
    Math.abs((position.get((first === part ? then : first).key) ?? line.length * 2) - at);
  const because = own.sort(
    (a, b) => Number(a.verdict === 'fine') - Number(b.verdict === 'fine') || distance(a) - distance(b),
  )[0]!;
  const isFirst = because.first === part;
  return {
    because,
    next: { side: isFirst ? 'before' : 'after', part: isFirst ? because.then : because.first },
  };
}

function changedLists<P extends OrderPart>(all: readonly P[], line: readonly Slot<P>[]): PlacementOrder[] {
  const before = listsOf(all.map((part) => ({ part, placement: part.part.placement })));
  return [...listsOf(line)]
    .filter(([key, { parts }]) => before.get(key)?.parts.join() !== parts.join())
    .map(([, list]) => list);
}

function listsOf<P extends OrderPart>(
  line: readonly Slot<P>[],
): Map<string, { placement: Placement; parts: string[] }> {
  const lists = new Map<string, { placement: Placement; parts: string[] }>();
  for (const { part, placement } of line) {
    const key = placementKey(placement);
    if (!lists.has(key)) lists.set(key, { placement, parts: [] });
    lists.get(key)!.parts.push(part.key);
  }
  return lists;
}
