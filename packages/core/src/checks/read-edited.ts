import equal from 'fast-deep-equal';
import { orderedParts, type Snapshot, type SnapshotSnippet } from '../snapshot/index.js';
import { rearranged, replaced, slotted } from './edited-order.js';
import { bySnippet, filledWhereItRuns, type ReadSet, type Reading } from './read-set.js';

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
  for (let at = 0; at < line.length; at++) {
    const snippet = line[at]!;
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
  for (const own of shifted) {
    const { snippet, parts, recipe } = snippets.get(own.key)!;
    snippets.set(own.key, { own, snippet, parts, ...(recipe ? { recipe } : {}) });
  }

  const filled = filledWhereItRuns({ ...snapshot, snippets: differing });
  const placed = orderedParts(filled);
  const isFew = shifted.length === 0 && placed.length + changed.size < MOST_SLOTTED;
  const order = isInPlace
    ? replaced(before, placed, reading)
    : isFew
      ? slotted(before, snippets, placed, changed, reading)
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

/** More parts than this are not put into their places one by one. */
const MOST_SLOTTED = 64;
/** Below this many it does not matter how many of a set are different. */
const MOST_CHANGED = 8;

function places({ parts }: SnapshotSnippet): unknown {
  return parts.map(({ placement, rank }) => ({ placement, rank }));
}

/** How much differs: where one part comes in, the ranks of all behind it do, and nothing else. */
function differenceOf(a: SnapshotSnippet, b: SnapshotSnippet): 'none' | 'ranks' | 'much' {
  if (a.parts.length !== b.parts.length || !isSameBut('parts', a, b)) return 'much';
  if (!a.parts.every((part, index) => isSameBut('rank', part, b.parts[index]!))) return 'much';
  return a.parts.every(({ rank }, index) => rank === b.parts[index]!.rank) ? 'none' : 'ranks';
}

function isSameBut<T extends object>(aside: keyof T, a: T, b: T): boolean {
  let more = Object.keys(b).length;
  for (const key in a) {
    more--;
    if (key !== aside && a[key] !== b[key] && !equal(a[key], b[key])) return false;
  }
  return more === 0;
}
