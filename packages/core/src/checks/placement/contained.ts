import { containmentProblem } from '../../contain/index.js';
import { placementKey } from '../../insert/index.js';
import { partName } from '../../order/index.js';
import { subject, evidence } from '../checked-set.js';
import type { Check } from '../types.js';

export const contained: Check = {
  id: 'contained',
  area: 'placement',
  severity: 'error',
  title: 'Code that changes the page around it',
  why: 'A tag that is left open, or one too many, makes browsers read the rest of the page differently: texts vanish, the layout breaks, or everything after it becomes part of the snippet.',
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
      if (part.facts.language === 'text' && part.code.trim() === '') continue;
      // Script text without tags is visible text; there is a check of its own for that.
      if (part.facts.language !== 'markup') continue;
      const { placement } = part.part;
      const problem = set.memory.once(`contained ${placementKey(placement)}`, part.code, (code) =>
        containmentProblem(code, placement),
      );
      if (!problem) continue;
      yield {
        about: problem.problem,
        title: `${partName(part)} changes the page around it`,
        advice: problem.message,
        subjects: [subject(part)],
        evidence: [evidence(part, { start: 0, end: part.code.length }, 'the code')],
      };
    }
  },
};
