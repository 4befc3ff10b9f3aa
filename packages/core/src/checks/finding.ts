import type { Range } from '../facts/index.js';
import type { SetChange } from '../edit/index.js';

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
