import { partName } from '../../snapshot/index.js';
import type { Check } from '../check.js';
import { placeWords, problemsOfKind } from './of-facts.js';

export const syntaxError: Check = {
  id: 'syntax-error',
  area: 'activation',
  severity: 'error',
  title: 'A script that browsers cannot read',
  why: 'One wrong character, and a browser does not run any of the script. Most often a piece was not copied.',
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
      title: `A script in ${partName(part)} cannot be read`,
      advice: `Browsers stop at ${placeWords(part, problem)} (${problem.message}). Copy the code again, completely.`,
      note: problem.message,
    }));
  },
};
