import { memoizeByObject } from '../memoize/by-object.js';
import type { Field } from '../fields/index.js';
import type { Placement } from '../insert/index.js';
import type { Limits, PageRules, Reach, SiteReach } from '../reach/index.js';

export type SnippetState = 'on' | 'off' | 'archived';

/** How often a part runs. */
export const PART_PERS = ['load', 'view'] as const;
export type PartPer = (typeof PART_PERS)[number];

export interface SnapshotPart {
  readonly placement: Placement;
  /** Position among all parts of the placement, from 0; lower runs earlier. */
  readonly rank: number;
  readonly code: string;
  /** What the provider says of where it goes, word for word; left out where nothing is known. */
  readonly statement?: string;
  /**
   * It runs anew whenever a single-page application shows another view, and what it has put into the page goes with its
   * view. Left out in releases for what runs once for a page load.
   */
  readonly per?: PartPer;
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
export const reachOf = memoizeByObject(({ pages, limits }: SnapshotSnippet): Reach => ({ ...limits, pages }));
