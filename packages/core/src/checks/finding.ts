import type { Range } from '../facts/index.js';
import type { SetChange } from '../edit/index.js';
import type { Params } from '../texts/index.js';

export type Severity = 'error' | 'warning' | 'advice';

export const SEVERITIES: readonly Severity[] = ['error', 'warning', 'advice'];

export const AREAS = [
  'placement',
  'order',
  'duplicates',
  'overlap',
  'activation',
  'delivery',
  'safety',
] as const;
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
export interface Spot<Role extends string = string> {
  /** What this place is in the finding; the check has the words for it. */
  readonly role: Role;
  /** What fills in the words for it, beside what the finding says. */
  readonly params?: Params;
  readonly part: string;
  readonly range: Range;
  /** The line that it stands in, cut to a readable length around it. */
  readonly text: string;
  readonly line: number;
  readonly column: number;
}

export interface Evidence extends Spot {
  /** What this place is in the finding, in a few words. */
  readonly note: string;
}

export interface Fix {
  /** What it does, in one sentence. */
  readonly title: string;
  readonly changes: readonly SetChange[];
}

/** Something that a check found in a set, without its words: `wordFinding` says it in the language of a reader. */
export interface UnwordedFinding {
  /** Stays the same while what it is about stays the same. */
  readonly id: string;
  /** Changes when what is found changes: how bad it is, or the code that shows it. */
  readonly fingerprint: string;
  readonly check: string;
  readonly area: Area;
  readonly severity: Severity;
  /** What is said of it, apart from the words: for clients with words of their own. */
  readonly message: { readonly id: string; readonly params: Params };
  readonly subjects: readonly Subject[];
  readonly evidence: readonly Spot[];
  readonly fix?: Pick<Fix, 'changes'>;
}

/** Something that a check found in a set. */
export interface Finding extends UnwordedFinding {
  readonly title: string;
  readonly why: string;
  /** What to do. */
  readonly advice: string;
  readonly evidence: readonly Evidence[];
  readonly fix?: Fix;
}

/** What a check gives back; the words and the rest of a finding are the check's own. */
export interface Found {
  /** Which of the check's messages says it. */
  readonly message: string;
  /** What is filled in: in its title, advice and fix, and in the words for its evidence. */
  readonly params: Params;
  /** Tells findings of one check about the same subjects apart. */
  readonly about: string;
  readonly subjects: readonly Subject[];
  readonly evidence: readonly Spot[];
  readonly severity?: Severity;
  /** What fixes it. */
  readonly fix?: readonly SetChange[];
}
