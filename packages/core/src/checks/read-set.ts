import type { FactsCache } from '../facts/index.js';
import { isInHead } from '../insert/index.js';
import type { Recipe } from '../recipes/index.js';
import {
  filledSnapshot,
  orderedParts,
  type PlacedPart,
  type Snapshot,
  type SnapshotSnippet,
} from '../snapshot/index.js';
import type { FileBook } from '../survey/index.js';
import { factsWithFiles } from './facts-with-files.js';
import { grouped } from './groups.js';
import type { ReadPart } from './read-part.js';

/** A snippet of a set with what was read out of it. */
export interface ReadSnippet {
  /** As it stands in the set. */
  readonly own: SnapshotSnippet;
  /** With its fields filled in. */
  readonly snippet: SnapshotSnippet;
  /** In page order. */
  readonly parts: readonly ReadPart[];
  /** The newest version of the recipe that it is an install of, once that was asked. */
  recipe?: { readonly found: Recipe | undefined };
}

/** The snippets of a set and all their parts in page order, read. */
export interface ReadSet {
  /** As they stand in the set, in its order. */
  readonly line: readonly SnapshotSnippet[];
  /** By key. */
  readonly snippets: ReadonlyMap<string, ReadSnippet>;
  readonly parts: readonly ReadPart[];
  /** Those of snippets that are on. */
  readonly running: readonly ReadPart[];
}

/** What reading a set takes. */
export interface Reading {
  readonly memory: FactsCache;
  readonly files: FileBook;
}

/** Reads all of a set. */
export function readSet(snapshot: Snapshot, reading: Reading): ReadSet {
  const filled = filledWhereItRuns(snapshot);
  const placed = orderedParts(filled);
  const parts = placed.map((one, position) => readPart(one, position, reading));
  return {
    line: snapshot.snippets,
    snippets: bySnippet(snapshot.snippets, parts, filled),
    parts,
    running: parts.filter(({ isOn }) => isOn),
  };
}

/** @param position - where it stands among the others, as a number that grows in page order */
export function readPart(placed: PlacedPart, position: number, { memory, files }: Reading): ReadPart {
  const read = memory.read(placed.part.code);
  return {
    ...placed,
    read,
    code: read.code,
    facts: factsWithFiles(files)(read),
    position,
    isOn: placed.snippet.state === 'on',
    isInHead: isInHead(placed.part.placement),
  };
}

/** @param filled - the set of the snippets with their fields filled in, in the same order */
export function bySnippet(
  own: readonly SnapshotSnippet[],
  parts: readonly ReadPart[],
  filled: Snapshot,
): Map<string, ReadSnippet> {
  const lists = grouped(parts, (part) => part.snippet.key);
  return new Map(
    own.map((snippet, at) => [
      snippet.key,
      { own: snippet, snippet: filled.snippets[at]!, parts: lists.get(snippet.key) ?? [] },
    ]),
  );
}

/** What visitors of the live site get is what is looked at; of a snippet for staging only, what staging gets. */
export function filledWhereItRuns(snapshot: Snapshot): Snapshot {
  const live = filledSnapshot(snapshot, 'live');
  if (live === snapshot) return snapshot;
  const staging = filledSnapshot(snapshot, 'staging');
  return {
    ...live,
    snippets: live.snippets.map((snippet, index) =>
      snippet.limits?.environment === 'staging' ? staging.snippets[index]! : snippet,
    ),
  };
}
