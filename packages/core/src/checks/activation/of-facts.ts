import type { CodeProblem, Mark, MarkKind, ProblemKind } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { type CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import type { ReadPart } from '../read-part.js';
import type { Params } from '../../texts/index.js';
import type { Found, Severity, Spot } from '../finding.js';

/** How much of the code behind the place is shown. */
const SHOWN = 40;

/** What a check says of one fact: which of its messages, filled in with what, and what the place of it is. */
interface SaidOfFact {
  readonly message: string;
  readonly params: Params;
  readonly role: string;
  readonly severity?: Severity;
}

type FactFound<Said extends SaidOfFact> = Omit<Found, 'message' | 'params' | 'evidence' | 'fix'> &
  Pick<Said, 'message' | 'params'> & { readonly evidence: readonly Spot<Said['role']>[] };

/** A finding for each problem of a kind that reading has met. */
export function* problemsOfKind<const Said extends SaidOfFact>(
  set: CheckedSet,
  kind: ProblemKind,
  say: (part: ReadPart, problem: CodeProblem) => Said,
): Generator<FactFound<Said>> {
  for (const part of set.running) {
    const problems = part.facts.problems.filter((problem) => problem.kind === kind);
    for (const [number, problem] of problems.entries()) {
      const said = say(part, problem);
      yield {
        // By number and not by line: it is the same problem when something above it changes.
        about: `${kind} ${number}`,
        message: said.message,
        params: said.params,
        subjects: [subject(part)],
        evidence: [
          evidence(part, { start: problem.range.start, end: problem.range.start + SHOWN }, said.role),
        ],
      };
    }
  }
}

/** A finding for each value of a kind that should not go live. */
export function* marksOfKind<const Said extends SaidOfFact>(
  { running }: Pick<CheckedSet, 'running'>,
  kind: MarkKind,
  say: (part: ReadPart, mark: Mark) => Said,
): Generator<FactFound<Said>> {
  for (const part of running) {
    const seen = new Set<string>();
    for (const mark of part.facts.marks) {
      if (mark.kind !== kind || seen.has(mark.value)) continue;
      seen.add(mark.value);
      const said = say(part, mark);
      yield {
        about: mark.value,
        message: said.message,
        params: said.params,
        subjects: [subject(part)],
        evidence: [evidence(part, mark.range, said.role)],
        ...(said.severity ? { severity: said.severity } : {}),
      };
    }
  }
}

/** Where a problem is, for what a message says of it. */
export function placeParams(
  part: ReadPart,
  { line, column }: CodeProblem,
): { line: number; column: number; part: string } {
  return { line, column, part: partName(part) };
}
