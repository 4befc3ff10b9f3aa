import {
  comparePlaced,
  numberOfPart,
  type PlacedPart,
  type Snapshot,
  type SnapshotSnippet,
} from '../snapshot/index.js';
import { longestRising } from './longest-rising.js';
import type { ReadPart } from './read-part.js';
import { readPart, type ReadSet, type ReadSnippet, type Reading } from './read-set.js';

/** The parts of a set after an edit, in page order. */
export interface Order extends Pick<ReadSet, 'parts' | 'running'> {
  /** Those that were read now, in page order. */
  readonly fresh: readonly ReadPart[];
  /** Those that stand elsewhere and are otherwise the same. */
  readonly moved: readonly ReadPart[];
}

/** The same parts in the same places, some of them read anew. */
export function replaced(
  { snippets, ...before }: ReadSet,
  placed: readonly PlacedPart[],
  reading: Reading,
): Order {
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

/** A few parts taken out of their places, and a few put into theirs; all others stay. @param standing - the snippets that are the same */
export function slotted(
  before: ReadSet,
  standing: ReadonlyMap<string, ReadSnippet>,
  placed: readonly PlacedPart[],
  changed: ReadonlySet<string>,
  reading: Reading,
): Order | undefined {
  const parts = [...before.parts];
  const running = [...before.running];
  for (const key of changed)
    for (const { position, isOn } of before.snippets.get(key)?.parts ?? []) {
      parts.splice(indexAt(parts, position), 1);
      if (isOn) running.splice(indexAt(running, position), 1);
    }
  const fresh = new Map<string, ReadPart>();
  const place = (part: ReadPart): PlacedPart =>
    fresh.get(part.key) ?? asItStands(part, standing.get(part.snippet.key)!.own);
  for (const one of placed) {
    const index = firstIndex(parts, (part) => comparePlaced(place(part), one) > 0);
    const low = parts[index - 1]?.position ?? (parts[index]?.position ?? 0) - 2;
    const high = parts[index]?.position ?? low + 2;
    const position = (low + high) / 2;
    // There is no number any more between two that were halved often enough.
    if (position <= low || position >= high) return undefined;
    const part = readPart(one, position, reading);
    fresh.set(part.key, part);
    parts.splice(index, 0, part);
    if (part.isOn) running.splice(indexAt(running, position), 0, part);
  }
  return { parts, running, fresh: [...fresh.values()], moved: [] };
}

/** A part as its snippet has it now: with the rank that it has by now. */
function asItStands({ key }: ReadPart, snippet: SnapshotSnippet): PlacedPart {
  return { key, snippet, part: snippet.parts[numberOfPart(key) - 1]! };
}

/** The index of the part at a position, or of the first behind it. */
function indexAt(parts: readonly ReadPart[], position: number): number {
  return firstIndex(parts, (part) => part.position >= position);
}

/** Where something begins to be true, that stays so from there on. */
function firstIndex<T>(list: readonly T[], holds: (one: T) => boolean): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(list[middle]!)) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** The parts in a new order. Those that keep their order among each other keep their positions; the fewest move. */
export function rearranged(
  before: ReadSet,
  snapshot: Snapshot,
  placed: readonly PlacedPart[],
  changed: ReadonlySet<string>,
  reading: Reading,
): Order | undefined {
  const line = linedUp(before, snapshot, placed, changed);
  const staying = stayingOf(line);
  const parts: ReadPart[] = [];
  const fresh: ReadPart[] = [];
  const moved: ReadPart[] = [];
  for (let at = 0; at < line.length;) {
    if (staying[at]) {
      parts.push(line[at++]!.known!);
      continue;
    }
    let end = at;
    while (end < line.length && !staying[end]) end++;
    const low = parts.at(-1)?.position ?? (line[end]?.known?.position ?? 0) - 1;
    const high = end < line.length ? line[end]!.known!.position : low + 1;
    for (let index = at; index < end; index++) {
      const position = low + ((high - low) * (index - at + 1)) / (end - at + 1);
      // There is no number any more between two that were halved often enough.
      if (position <= (parts.at(-1)?.position ?? -Infinity) || position >= high) return undefined;
      const { known, placed: one } = line[index]!;
      const part = known ? { ...known, position } : readPart(one, position, reading);
      parts.push(part);
      (known ? moved : fresh).push(part);
    }
    at = end;
  }
  return { parts, running: parts.filter(({ isOn }) => isOn), fresh, moved };
}

/** A part in its place, with what was read of it where it is the same. */
interface LinedUp {
  readonly placed: PlacedPart;
  readonly known: ReadPart | undefined;
}

/** All parts of an edited set in page order. @param placed - those of snippets that differ */
function linedUp(
  { snippets }: ReadSet,
  snapshot: Snapshot,
  placed: readonly PlacedPart[],
  changed: ReadonlySet<string>,
): LinedUp[] {
  const line: LinedUp[] = placed.map((one) => ({ placed: one, known: undefined }));
  for (const snippet of snapshot.snippets)
    if (!changed.has(snippet.key))
      for (const known of snippets.get(snippet.key)!.parts)
        line.push({ placed: asItStands(known, snippet), known });
  return line.sort((a, b) => comparePlaced(a.placed, b.placed));
}

/** For each part of a new line whether it keeps its position: as many as can. */
function stayingOf(line: readonly LinedUp[]): ArrayLike<unknown> {
  const staying = new Uint8Array(line.length);
  let last = -Infinity;
  let isRising = true;
  for (let at = 0; at < line.length; at++) {
    const { known } = line[at]!;
    if (!known) continue;
    staying[at] = 1;
    isRising &&= known.position > last;
    last = known.position;
  }
  if (isRising) return staying;
  const standing = line.flatMap(({ known }, at) => (known ? [{ at, position: known.position }] : []));
  staying.fill(0);
  for (const index of longestRising(standing.map(({ position }) => position)))
    staying[standing[index]!.at] = 1;
  return staying;
}
