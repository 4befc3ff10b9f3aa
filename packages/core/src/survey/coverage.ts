import { listWords } from '../reach/index.js';
import { SURVEY_TEXTS } from '../texts/survey.js';
import { say } from '../texts/say.js';
import type { PageType } from './types.js';

/** Pages of one section and type that were given the same. */
export interface CoveredPages {
  readonly section: string;
  readonly type: PageType;
  readonly pages: number;
  /** The first of them. */
  readonly examples: readonly string[];
  /** Snippets that the plan asks for there. */
  readonly expected: readonly string[];
  /** Those of them of which a part is missing. */
  readonly missing: readonly string[];
}

export interface CoverageCell {
  readonly expected: number;
  readonly present: number;
}

export interface CoverageRow {
  readonly section: string;
  readonly type: PageType;
  readonly pages: number;
  /** By snippet; those that the plan asks for on none of these pages are left out. */
  readonly cells: Readonly<Record<string, CoverageCell>>;
}

export interface SnippetCoverage extends CoverageCell {
  readonly snippet: string;
  /** "On 21 of 22 pages; missing on /contact." */
  readonly words: string;
}

export interface Coverage {
  readonly rows: readonly CoverageRow[];
  readonly snippets: readonly SnippetCoverage[];
}

const MAX_NAMED = 3;

/**
 * Pages × snippets: what the plan asks for, against what stands there.
 *
 * @param snippets - keys of those that are told of, in order
 */
export function coverageOf(groups: readonly CoveredPages[], snippets: readonly string[]): Coverage {
  const rows = new Map<string, { -readonly [K in keyof CoverageRow]: CoverageRow[K] }>();
  const totals = new Map<string, { expected: number; missing: number; examples: string[] }>();
  for (const group of groups) {
    const key = `${group.section} ${group.type}`;
    const row = rows.get(key) ?? { section: group.section, type: group.type, pages: 0, cells: {} };
    row.pages += group.pages;
    const cells: Record<string, CoverageCell> = { ...row.cells };
    const missing = new Set(group.missing);
    for (const snippet of group.expected) {
      const isMissing = missing.has(snippet);
      const cell = cells[snippet] ?? { expected: 0, present: 0 };
      cells[snippet] = {
        expected: cell.expected + group.pages,
        present: cell.present + (isMissing ? 0 : group.pages),
      };
      const total = totals.get(snippet) ?? { expected: 0, missing: 0, examples: [] };
      total.expected += group.pages;
      if (isMissing) {
        total.missing += group.pages;
        total.examples.push(...group.examples.slice(0, MAX_NAMED));
      }
      totals.set(snippet, total);
    }
    row.cells = cells;
    rows.set(key, row);
  }
  return {
    rows: [...rows.values()].sort((a, b) => compare(a.section, b.section) || compare(a.type, b.type)),
    snippets: snippets.map((snippet) => {
      const { expected, missing, examples } = totals.get(snippet) ?? {
        expected: 0,
        missing: 0,
        examples: [],
      };
      const words = coverageWords(expected, missing, examples.sort());
      return { snippet, expected, present: expected - missing, words };
    }),
  };
}

function coverageWords(expected: number, missing: number, examples: readonly string[]): string {
  if (expected === 0) return SURVEY_TEXTS.onNoPage;
  if (missing === 0) return say(SURVEY_TEXTS.onAllPages, { expected });
  const named = examples.slice(0, MAX_NAMED);
  const where =
    missing > named.length
      ? say(SURVEY_TEXTS.pagesAndMore, { pages: named.join(', '), more: missing - named.length })
      : listWords(named);
  return say(SURVEY_TEXTS.missingOn, { present: expected - missing, expected, where });
}

function compare(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
