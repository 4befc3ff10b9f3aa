import type { CodeProblem } from '../../facts/index.js';
import { defineCheck } from '../check.js';
import { placeParams, problemsOfKind } from './of-facts.js';

export const syntaxError = defineCheck({
  id: 'syntax-error',
  area: 'activation',
  severity: 'error',
  title: 'A script that browsers cannot read',
  why: 'With one wrong character, browsers run none of the script. Most often part of it was not copied.',
  messages: {
    unreadable: {
      title: 'A script in {part} has a syntax error',
      advice:
        'Browsers stop at line {line}, column {column} of {part} ({problem}). Compare that line with the provider’s page: one extra or missing character is enough.',
    },
    'cut-off': {
      title: 'A script in {part} is cut off',
      advice:
        'It ends in the middle, at line {line} of {part}. Copy the code again from the provider’s page, right to the end.',
    },
  },
  roles: {
    stop: '{problem}',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Counter',
      parts: [{ placement: 'head-end', code: '<script>window.tally = function () { count(); }};</script>' }],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [{ placement: 'head-end', code: '<script>window.tally = function () { count(); };</script>' }],
    },
  ],
  *run(set) {
    yield* problemsOfKind(set, 'syntax', (part, problem) => ({
      message: isCutOff(part.code, problem) ? 'cut-off' : 'unreadable',
      params: { ...placeParams(part, problem), problem: problem.message },
      role: 'stop',
    }));
  },
});

/** Whether a script stops where its text ends: more of it may be on the provider's page. */
function isCutOff(code: string, { range }: CodeProblem): boolean {
  const rest = code.slice(range.start).trim();
  return rest === '' || /^<\/script\s*>\s*$/i.test(rest);
}
