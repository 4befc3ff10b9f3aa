import { memoizeByObject } from '../../memoize/by-object.js';
import {
  UNPROVEN,
  containmentProblem,
  wrappedProblem,
  type Containment,
  type Culprit,
} from '../../contain/index.js';
import { isInHead, type Placement } from '../../insert/index.js';
import { listWords } from '../../reach/index.js';
import { partName } from '../../snapshot/index.js';
import { type CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import type { ReadCode } from '../facts-cache.js';
import type { ReadPart } from '../read-part.js';
import type { Check } from '../check.js';

export const contained: Check = {
  id: 'contained',
  area: 'placement',
  severity: 'error',
  title: 'Code that changes the page around it',
  why: 'A tag that is left open, or one too many, makes browsers read the rest of the page differently: texts vanish, the layout breaks, or everything after it becomes part of the snippet.',
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
        const { culprit, message } = problem;
        const pushedOut = problem.problem === 'ends-head' ? partsBehind(set, part) : [];
        yield {
          about: problem.problem,
          title: culprit
            ? TITLES[culprit.kind](partName(part), culprit.name)
            : `${partName(part)} changes the page around it`,
          advice:
            pushedOut.length === 0
              ? message
              : `${message} Pushed out of the head with it: ${listWords(pushedOut.map(partName))}, and whatever of the page’s own head comes after.`,
          subjects: [subject(part), ...pushedOut.map(subject)],
          evidence: [
            evidence(
              part,
              culprit?.range ?? { start: 0, end: part.code.length },
              NOTES[culprit?.kind ?? 'code'],
            ),
          ],
        };
        continue;
      }
      const page = set.onPages(part).find(({ kind }) => kind === 'changes-page');
      if (!page) continue;
      yield {
        about: 'on-page',
        title: `${partName(part)} changes the page around it on ${page.path}`,
        advice: `On ${page.path} it stands inside something that it may not stand in, such as a form in a form or a link in a link. Choose another place on that page, or leave that page out.`,
        subjects: [subject(part)],
        evidence: [evidence(part, { start: 0, end: part.code.length }, 'the code')],
      };
    }
  },
};

const problems = memoizeByObject<ReadCode, Map<boolean, Containment | undefined>>(() => new Map());

/** All places in the head are alike to the code, and so are all in the body. */
function problemOf(read: ReadCode, placement: Placement): Containment | undefined {
  const kept = problems(read);
  const inHead = isInHead(placement);
  if (!kept.has(inHead)) kept.set(inHead, containmentProblem(read.code, placement));
  return kept.get(inHead);
}

const TITLES: Readonly<Record<Culprit['kind'], (part: string, what: string) => string>> = {
  'stray-end': (part, what) => `${part} closes something of the page with ${what}`,
  unclosed: (part, what) => `${part} leaves ${what} open`,
  'ends-head': (part, what) => `${part} ends the head early with ${what}`,
};

const NOTES: Readonly<Record<Culprit['kind'] | 'code', string>> = {
  'stray-end': 'closes nothing in this code',
  unclosed: 'is never closed',
  'ends-head': 'ends the head',
  code: 'the code',
};

/** Parts in the head that stand behind one, on a page that gets both. */
function partsBehind(set: CheckedSet, part: ReadPart): ReadPart[] {
  return set.running.filter(
    (other) => other.isInHead && other.position > part.position && set.meeting(part, other) !== undefined,
  );
}
