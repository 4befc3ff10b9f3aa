import equal from 'fast-deep-equal';
import { orderedParts, type PlacedPart, type Snapshot, type SnapshotSnippet } from '../snapshot/index.js';
import { longestRising } from './longest-rising.js';
import type { ReadPart } from './read-part.js';
import { bySnippet, filledWhereItRuns, readPart, type ReadSet, type Reading } from './read-set.js';

/** A set after an edit, and the keys of the snippets in which it differs, or which stand elsewhere. */
export interface EditedSet {
  readonly read: ReadSet;
  readonly changed: ReadonlySet<string>;
}

/**
 * The same set after an edit: what is the same in it stays the same objects, so that what was worked out for them holds.
 *
 * @returns undefined where so much is different that reading it anew is less work
 */
export function readEdited(before: ReadSet, snapshot: Snapshot, reading: Reading): EditedSet | undefined {
  const { snippets: line } = snapshot;
  const differing: SnapshotSnippet[] = [];
  const shifted: SnapshotSnippet[] = [];
  const changed = new Set<string>();
  let isInPlace = true;
  let isSameLine = line.length === before.line.length;
  for (const [at, snippet] of line.entries()) {
    if (snippet === before.line[at]) continue;
    const { key } = snippet;
    if (key !== before.line[at]?.key) isSameLine = false;
    const known = before.snippets.get(key);
    const difference = known ? differenceOf(known.own, snippet) : 'much';
    if (difference === 'none') continue;
    if (difference === 'ranks') shifted.push(snippet);
    else {
      differing.push(snippet);
      changed.add(key);
      isInPlace &&= known !== undefined && equal(places(known.own), places(snippet));
    }
  }
  if (!isSameLine) {
    const keys = new Set(line.map(({ key }) => key));
    if (keys.size < line.length) return undefined;
    for (const key of before.snippets.keys()) if (!keys.has(key)) changed.add(key);
    isInPlace &&= keys.size === before.snippets.size;
  }
  isInPlace &&= shifted.length === 0;
  if (changed.size > MOST_CHANGED + snapshot.snippets.length / 2) return undefined;
  const snippets = new Map(before.snippets);
  for (const key of changed) snippets.delete(key);
  for (const own of shifted) snippets.set(own.key, { ...snippets.get(own.key)!, own });

  const filled = filledWhereItRuns({ ...snapshot, snippets: differing });
  const placed = orderedParts(filled);
  const order = isInPlace
    ? replaced(before, placed, reading)
    : rearranged(before, snapshot, placed, changed, reading);
  if (!order) return undefined;
  for (const [key, one] of bySnippet(differing, order.fresh, filled)) snippets.set(key, one);
  for (const part of order.moved) {
    const { key } = part.snippet;
    const known = snippets.get(key)!;
    const parts = known.parts.map((one) => (one.key === part.key ? part : one));
    snippets.set(key, { ...known, parts: parts.sort((a, b) => a.position - b.position) });
    changed.add(key);
  }
  return { read: { line, snippets, parts: order.parts, running: order.running }, changed };
}

/** Below this many it does not matter how many of a set are different. */
const MOST_CHANGED = 8;

interface Order extends Pick<ReadSet, 'parts' | 'running'> {
  /** Those that were read now, in page order. */
  readonly fresh: readonly ReadPart[];
  /** Those that stand elsewhere and are otherwise the same. */
  readonly moved: readonly ReadPart[];
}

function places({ parts }: SnapshotSnippet): unknown {
  return parts.map(({ placement, rank }) => ({ placement, rank }));
}

/** The same parts in the same places, some of them read anew. */
function replaced({ snippets, ...before }: ReadSet, placed: readonly PlacedPart[], reading: Reading): Order {
  const pairs = placed.map((one) => {
    const old = snippets.get(one.snippet.key)!.parts.find(({ key }) => key === one.key)!;
    return { old, part: readPart(one, old.position, reading) };
  });
  const parts = [...before.parts];
  for (const { old, part } of pairs) parts[indexAt(parts, old.position)] = part;
  const fresh = pairs.map(({ part }) => part);
  if (pairs.some(({ old, part }) => old.isOn !== part.isOn))
    return { parts, running: parts.filter(({ isOn }) => isOn), fresh, moved: [] };
  const running = [...before.running];
  for (const part of fresh) if (part.isOn) running[indexAt(running, part.position)] = part;
  return { parts, running, fresh, moved: [] };
}

/** The index of the part at a position, which is there. */
function indexAt(parts: readonly ReadPart[], position: number): number {
  let [low, high] = [0, parts.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (parts[middle]!.position < position) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The parts in a new order. Those that keep their order among each other keep their positions; the fewest move. */
function rearranged(
  before: ReadSet,
  snapshot: Snapshot,
  placed: readonly PlacedPart[],
  changed: ReadonlySet<string>,
  reading: Reading,
): Order | undefined {
  const byKey = new Map(placed.map((one) => [one.key, one]));
  const line = orderedParts(snapshot);
  const known = line.map(({ key, snippet }) =>
    changed.has(snippet.key)
      ? undefined
      : before.snippets.get(snippet.key)?.parts.find((part) => part.key === key),
  );
  const staying = stayingOf(known);
  const parts: ReadPart[] = [];
  const fresh: ReadPart[] = [];
  const moved: ReadPart[] = [];
  for (let at = 0; at < line.length;) {
    if (staying[at]) {
      parts.push(known[at++]!);
      continue;
    }
    let end = at;
    while (end < line.length && !staying[end]) end++;
    const low = parts.at(-1)?.position ?? (known[end]?.position ?? 0) - 1;
    const high = end < line.length ? known[end]!.position : low + 1;
    for (let index = at; index < end; index++) {
      const position = low + ((high - low) * (index - at + 1)) / (end - at + 1);
      // There is no number any more between two that were halved often enough.
      if (position <= (parts.at(-1)?.position ?? -Infinity) || position >= high) return undefined;
      const standing = known[index];
      const one = standing
        ? { ...standing, position }
        : readPart(byKey.get(line[index]!.key)!, position, reading);
      parts.push(one);
      (standing ? moved : fresh).push(one);
    }
    at = end;
  }
  return { parts, running: parts.filter(({ isOn }) => isOn), fresh, moved };
}

/** For each part of a new line whether it keeps its position: as many as can. */
function stayingOf(line: readonly (ReadPart | undefined)[]): boolean[] {
  const standing = line.flatMap((part, at) => (part ? at : []));
  const positions = standing.map((at) => line[at]!.position);
  const staying = line.map(() => false);
  const isRising = positions.every((position, at) => at === 0 || position > positions[at - 1]!);
  for (const at of isRising ? standing.keys() : longestRising(positions)) staying[standing[at]!] = true;
  return staying;
}

/** How much differs: where one part comes in, the ranks of all behind it do, and nothing else. */
function differenceOf(a: SnapshotSnippet, b: SnapshotSnippet): 'none' | 'ranks' | 'much' {
  if (a.parts.length !== b.parts.length || !isSameBut('parts', a, b)) return 'much';
  if (!a.parts.every((part, index) => isSameBut('rank', part, b.parts[index]!))) return 'much';
  return a.parts.every(({ rank }, index) => rank === b.parts[index]!.rank) ? 'none' : 'ranks';
}

function isSameBut<T extends object>(aside: keyof T, a: T, b: T): boolean {
  const keys = Object.keys(a) as (keyof T)[];
  return (
    keys.length === Object.keys(b).length &&
    keys.every((key) => key === aside || a[key] === b[key] || equal(a[key], b[key]))
  );
}
