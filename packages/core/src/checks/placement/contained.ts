import { memoizeByObject } from '../../memoize/by-object.js';
import {
  UNPROVEN,
  containmentProblem,
  wrappedProblem,
  type Containment,
  type Culprit,
} from '../../contain/index.js';
import { isInHead, type Placement } from '../../insert/index.js';
import { partName } from '../../snapshot/index.js';
import { type CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import type { PieceKind, ReadCode } from '../../facts/index.js';
import type { ReadPart } from '../read-part.js';
import { tieToAll } from '../tie.js';
import { defineCheck } from '../check.js';

export const contained = defineCheck({
  id: 'contained',
  area: 'placement',
  severity: 'error',
  title: 'Code that changes the page around it',
  why: 'An unclosed tag, or one too many, changes how browsers read the rest of the page: text vanishes, the layout breaks, or everything below becomes part of the snippet.',
  asks: ['survey'],
  messages: {
    'stray-end': { title: '{part} closes an element of the page with {what}', advice: '{problem}' },
    unclosed: { title: '{part} leaves {what} open', advice: '{problem}' },
    'ends-head': { title: '{part} ends the head early with {what}', advice: '{problem}' },
    'ends-head-of-others': {
      title: '{part} ends the head early with {what}',
      advice:
        '{problem} It also pushes {others} out of the head, and whatever else follows in the page’s own head.',
    },
    'changes-page': { title: '{part} changes the page around it', advice: '{problem}' },
    'on-page': {
      title: '{part} changes the page around it on {page}',
      advice:
        'On {page} it is inside something that cannot hold it, such as a form in a form or a link in a link. Choose another place on that page, or exclude the page.',
    },
  },
  roles: {
    'stray-end': 'closes nothing in this code',
    unclosed: 'is never closed',
    'ends-head': 'ends the head',
    code: 'the code',
  },
  isFixable: false,
  wrong: [
    { name: 'Notice', parts: [{ placement: 'body-start', code: '<div class="notice">Works on the slip' }] },
  ],
  right: [
    {
      name: 'Notice',
      parts: [{ placement: 'body-start', code: '<div class="notice">Works on the slip</div>' }],
    },
  ],
  ties: [tieToAll(mayEndHead)],
  *run(set) {
    for (const part of set.running) {
      // Script text without tags is visible text; there is a check of its own for that.
      if (part.facts.language !== 'markup') continue;
      const { placement } = part.part;
      const problem = part.read.isGivenUp
        ? UNPROVEN
        : set.memory.watched(
            part.read,
            () => problemOf(part.read, placement) ?? wrappedProblem(part.snippet, part.part),
          );
      if (problem) {
        const { culprit } = problem;
        const pushedOut = problem.problem === 'ends-head' ? partsBehind(set, part) : [];
        yield {
          about: problem.problem,
          message: messageOf(culprit, pushedOut.length > 0),
          params: {
            part: partName(part),
            what: culprit?.name ?? '',
            problem: problem.message,
            others: pushedOut.map(partName),
            page: '',
          },
          subjects: [subject(part), ...pushedOut.map(subject)],
          evidence: [
            evidence(part, culprit?.range ?? { start: 0, end: part.code.length }, culprit?.kind ?? 'code'),
          ],
        };
        continue;
      }
      const page = set.onPages(part).find(({ kind }) => kind === 'changes-page');
      if (!page) continue;
      yield {
        about: 'on-page',
        message: 'on-page',
        params: { part: partName(part), page: page.path },
        subjects: [subject(part)],
        evidence: [evidence(part, { start: 0, end: part.code.length }, 'code')],
      };
    }
  },
});

const problems = memoizeByObject<ReadCode, Map<boolean, Containment | undefined>>(() => new Map());

/** All places in the head are alike to the code, and so are all in the body. */
function problemOf(read: ReadCode, placement: Placement): Containment | undefined {
  const kept = problems(read);
  const inHead = isInHead(placement);
  if (!kept.has(inHead)) kept.set(inHead, containmentProblem(read.code, placement));
  return kept.get(inHead);
}

function messageOf(culprit: Culprit | undefined, pushesOut: boolean) {
  if (!culprit) return 'changes-page';
  return culprit.kind === 'ends-head' && pushesOut ? 'ends-head-of-others' : culprit.kind;
}

const IN_HEAD: ReadonlySet<PieceKind> = new Set(['script', 'data', 'comment', 'style', 'link', 'meta']);

/** Whether a part in the head has anything in it but scripts and what is not shown. */
function mayEndHead({ isInHead, isOn, facts }: ReadPart): boolean {
  return isInHead && isOn && facts.pieces.some(({ kind }) => !IN_HEAD.has(kind));
}

/** Parts in the head that stand behind one, on a page that gets both. */
function partsBehind(set: CheckedSet, part: ReadPart): ReadPart[] {
  return set.near.running.filter(
    (other) => other.isInHead && other.position > part.position && set.meeting(part, other) !== undefined,
  );
}
