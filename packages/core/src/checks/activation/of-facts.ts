import type { CodeProblem, Mark, MarkKind, ProblemKind } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { type CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import type { ReadPart } from '../read-part.js';
import type { Found } from '../finding.js';

/** What goes away with another problem, and is told only when it does not. */
const EXPLAINED_BY: Partial<Readonly<Record<ProblemKind, readonly ProblemKind[]>>> = {
  syntax: ['curly-quotes', 'escaped'],
};

/** A finding for each problem of a kind that reading has met. */
export function* problemsOfKind(
  set: CheckedSet,
  kind: ProblemKind,
  words: (part: ReadPart, problem: CodeProblem) => { title: string; advice: string; note: string },
): Generator<Found> {
  for (const part of set.running) {
    const kinds = new Set(part.facts.problems.map((problem) => problem.kind));
    if (EXPLAINED_BY[kind]?.some((cause) => kinds.has(cause))) continue;
    const problems = part.facts.problems.filter((problem) => problem.kind === kind);
    for (const [number, problem] of problems.entries()) {
      const { title, advice, note } = words(part, problem);
      yield {
        // By number and not by line: it is the same problem when something above it changes.
        about: `${kind} ${number}`,
        title,
        advice,
        subjects: [subject(part)],
        evidence: [evidence(part, { start: problem.range.start, end: problem.range.start + 40 }, note)],
      };
    }
  }
}

/** A finding for each value of a kind that should not go live. */
export function* marksOfKind(
  { running }: Pick<CheckedSet, 'running'>,
  kind: MarkKind,
  words: (part: ReadPart, mark: Mark) => { title: string; advice: string; note: string },
): Generator<Found> {
  for (const part of running) {
    const seen = new Set<string>();
    for (const mark of part.facts.marks) {
      if (mark.kind !== kind || seen.has(mark.value)) continue;
      seen.add(mark.value);
      const { title, advice, note } = words(part, mark);
      yield {
        about: mark.value,
        title,
        advice,
        subjects: [subject(part)],
        evidence: [evidence(part, mark.range, note)],
      };
    }
  }
}

/** "Unexpected token" and its like, with the place in words. */
export function placeWords(part: ReadPart, { line, column }: CodeProblem): string {
  return `line ${line}, column ${column} of ${partName(part)}`;
}
