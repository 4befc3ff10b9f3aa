import type { ComposedPages, Composition } from './composition.js';

/** A part that the plan asks for, and on how many pages it is not. */
export interface AbsentPart {
  readonly part: string;
  /** The code that was looked for, as it was released. */
  readonly code: string;
  readonly expected: number;
  readonly missing: number;
  /** The first pages of each make on which it is not. */
  readonly examples: readonly string[];
}

/** All parts that were looked for, also those that were found everywhere. @param codeOf - the code of a part */
export function absentParts(
  groups: readonly ComposedPages[],
  compositions: ReadonlyMap<number, Composition>,
  codeOf: (part: string) => string,
): AbsentPart[] {
  const found = new Map<string, { expected: number; missing: number; examples: string[] }>();
  for (const { composition, pages, examples } of groups) {
    const { expected, missing } = compositions.get(composition)!;
    for (const part of expected) {
      const one = found.get(part) ?? { expected: 0, missing: 0, examples: [] };
      found.set(part, one);
      one.expected += pages;
      if (!missing.includes(part)) continue;
      one.missing += pages;
      one.examples.push(...examples);
    }
  }
  return [...found].map(([part, one]) => ({ part, code: codeOf(part), ...one }));
}
