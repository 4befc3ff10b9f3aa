import type { Placement } from '../insert/index.js';
import type { Limits } from '../reach/index.js';
import type { Recipe } from '../recipes/index.js';
import type { SnippetState } from '../snapshot/index.js';
import type { CheckedSet } from './checked-set.js';
import type { Area, Found, Severity } from './finding.js';

/** A snippet of an example, as far as the example needs it. */
export interface ExampleSnippet {
  readonly name: string;
  readonly parts: readonly {
    readonly placement: Placement;
    readonly code: string;
    readonly statement?: string;
  }[];
  readonly state?: SnippetState;
  readonly include?: readonly string[];
  readonly exclude?: readonly string[];
  readonly limits?: Limits;
  readonly needs?: readonly string[];
  /** Key of the recipe that it follows, in its first version. */
  readonly recipe?: string;
}

/** A rule over a set. */
export interface Check {
  /** Lower case and dashes; part of the API and of waivers, so it never changes. */
  readonly id: string;
  readonly area: Area;
  readonly severity: Severity;
  /** What it looks for, in a few words. */
  readonly title: string;
  /** Why that matters to the owner of a site. */
  readonly why: string;
  /** Whether what it finds can be fixed automatically, at least where nothing else stands in the way. */
  readonly isFixable: boolean;
  readonly wrong: readonly ExampleSnippet[];
  readonly right: readonly ExampleSnippet[];
  /** Pages of the examples' site by path, where they matter. */
  readonly pages?: Readonly<Record<string, string>>;
  /** What the examples take for granted that their code does not show, in one sentence. */
  readonly given?: string;
  /** Recipes that the examples follow. */
  readonly recipes?: readonly Recipe[];
  run(set: CheckedSet): Iterable<Found>;
}
