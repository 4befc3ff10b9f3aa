import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import canonicalizeModule from 'canonicalize';
import { byObject } from '../by-object.js';
import type { Field } from '../fields/index.js';
import type { Recipe } from '../recipes/index.js';
import { NAMED_PLACEMENTS, isAnchor, placementKey, type Placement } from '../insert/index.js';
import type { Limits, PageRules, Reach, SiteReach } from '../reach/index.js';

// The package is CommonJS; its types describe the default export one level off.
const canonicalize = canonicalizeModule as unknown as (value: unknown) => string | undefined;

export type SnippetState = 'on' | 'off' | 'archived';

export interface SnapshotPart {
  readonly placement: Placement;
  /** Position among all parts of the placement, from 0; lower runs earlier. */
  readonly rank: number;
  readonly code: string;
  /** What the provider says of where it goes, word for word; left out where nothing is known. */
  readonly statement?: string;
}

/** The version of a recipe that a snippet follows. */
export interface RecipeLink {
  readonly key: string;
  readonly version: number;
  /** What the recipe's fields are called at the site, by their names in the recipe. */
  readonly fields: Readonly<Record<string, string>>;
}

export interface SnapshotSnippet {
  readonly key: string;
  readonly name: string;
  readonly purpose: string;
  readonly provider: string;
  readonly note: string;
  readonly state: SnippetState;
  readonly pages: PageRules;
  /** What bounds its reach beside the pages; left out where nothing does. */
  readonly limits?: Limits;
  /** Since when it is off or in the archive, and by whom; left out while it is on. */
  readonly stateSince?: { readonly at: string; readonly by: string };
  /** Keys of snippets that must run before this one, as somebody stated; left out where there are none. */
  readonly needs?: readonly string[];
  /** Left out where it was not made by a recipe. */
  readonly recipe?: RecipeLink;
  readonly parts: readonly SnapshotPart[];
}

/** A whole snippet set at one moment: the content of a release, and of a draft. */
export interface Snapshot {
  readonly format: 'pragmatica-set/1';
  readonly site: SiteReach & {
    readonly key: string;
    readonly name: string;
    readonly fields?: readonly Field[];
  };
  readonly snippets: readonly SnapshotSnippet[];
}

/** The page loads on which a snippet runs while it is on. */
export const reachOf = byObject(({ pages, limits }: SnapshotSnippet): Reach => ({ ...limits, pages }));

/** Canonical JSON (RFC 8785): equal data give equal text, byte for byte. */
export function canonicalJson(data: Snapshot | Recipe): string {
  return canonicalize(data)!;
}

/** SHA-256 of the canonical JSON, in lower-case hex. */
export function snapshotDigest(snapshot: Snapshot): string {
  return bytesToHex(sha256(utf8ToBytes(canonicalJson(snapshot))));
}

export interface PlacedPart {
  /** `snippet-key/number`, the number from 1 in the order of the snippet's parts. */
  readonly key: string;
  readonly snippet: SnapshotSnippet;
  readonly part: SnapshotPart;
}

/** The key of a snippet's part: its place in the snippet from 1. */
export function partKey(snippetKey: string, index: number): string {
  return `${snippetKey}/${index + 1}`;
}

/**
 * All parts in page order: head start, head end, body start, anchors by name, body end; by rank within a placement.
 * Parts of equal rank stand in the order of their keys, so that the order is always total.
 */
export function orderedParts(snapshot: Snapshot): PlacedPart[] {
  const parts = snapshot.snippets.flatMap((snippet) =>
    snippet.parts.map((part, index) => ({ key: partKey(snippet.key, index), snippet, part })),
  );
  return parts.sort(
    (a, b) =>
      placementPosition(a.part.placement) - placementPosition(b.part.placement) ||
      compareText(placementKey(a.part.placement), placementKey(b.part.placement)) ||
      a.part.rank - b.part.rank ||
      compareText(a.key, b.key),
  );
}

/** Where a placement stands in a page: anchors somewhere between the ends of the body. */
export function placementPosition(placement: Placement): number {
  if (isAnchor(placement)) return 2.5;
  return NAMED_PLACEMENTS.indexOf(placement);
}

function compareText(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
