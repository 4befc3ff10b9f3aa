import type { Placement } from '../insert/index.js';
import type { Range } from '../facts/index.js';
import type { PlacementOrder } from '../order/index.js';
import type { Recipe } from '../recipes/index.js';
import type { Limits } from '../reach/index.js';
import type { SnippetState } from '../release/index.js';
import type { CheckedSet } from './checked-set.js';

export type Severity = 'error' | 'warning' | 'advice';

export const SEVERITIES: readonly Severity[] = ['error', 'warning', 'advice'];

export const AREAS = ['placement', 'order', 'duplicates', 'overlap', 'activation', 'safety'] as const;
export type Area = (typeof AREAS)[number];

/** What a finding is about: a snippet, or one of its parts. */
export interface Subject {
  readonly snippet: string;
  /** The snippet's name. */
  readonly name: string;
  /** Key of the part, `snippet/number`. */
  readonly part?: string;
}

/** A place in a part's code that shows what was found. */
export interface Evidence {
  readonly part: string;
  readonly range: Range;
  /** The line that it stands in, cut to a readable length around it. */
  readonly text: string;
  readonly line: number;
  readonly column: number;
  /** What this place is in the finding, in a few words. */
  readonly note: string;
}

/** A change to a set. */
export type SetChange =
  | { readonly kind: 'edit-code'; readonly part: string; readonly code: string }
  | { readonly kind: 'move-part'; readonly part: string; readonly placement: Placement }
  | { readonly kind: 'remove-part'; readonly part: string }
  | { readonly kind: 'switch-off'; readonly snippet: string }
  /** Gives a snippet one part more, the last of its placement. */
  | {
      readonly kind: 'add-part';
      readonly snippet: string;
      readonly placement: Placement;
      readonly code: string;
    }
  /** Gives placements these orders; a part that is named stands in the list's placement then. */
  | {
      readonly kind: 'arrange';
      readonly lists: readonly PlacementOrder[];
      readonly moved: readonly string[];
    };

export interface Fix {
  /** What it does, in one sentence. */
  readonly title: string;
  readonly changes: readonly SetChange[];
}

/** Something that a check found in a set. */
export interface Finding {
  /** Stays the same while what it is about stays the same. */
  readonly id: string;
  /** Changes when what is found changes: how bad it is, or the code that shows it. */
  readonly fingerprint: string;
  readonly check: string;
  readonly area: Area;
  readonly severity: Severity;
  readonly title: string;
  readonly why: string;
  /** What to do. */
  readonly advice: string;
  readonly subjects: readonly Subject[];
  readonly evidence: readonly Evidence[];
  readonly fix?: Fix;
}

/** What a check gives back; the rest of a finding is the check's own. */
export interface Found {
  /** Tells findings of one check about the same subjects apart. */
  readonly about: string;
  readonly title: string;
  readonly advice: string;
  readonly subjects: readonly Subject[];
  readonly evidence: readonly Evidence[];
  readonly severity?: Severity;
  readonly fix?: Fix;
}

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
