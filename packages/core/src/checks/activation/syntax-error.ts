import { defineCheck } from '../check.js';
import { placeParams, problemsOfKind } from './of-facts.js';

export const syntaxError = defineCheck({
  id: 'syntax-error',
  area: 'activation',
  severity: 'error',
  title: 'A script that browsers cannot read',
  why: 'One wrong character, and a browser does not run any of the script. Most often a piece was not copied.',
  messages: {
    unreadable: {
      title: 'A script in {part} cannot be read',
      advice:
        'Browsers stop at line {line}, column {column} of {part} ({problem}). Copy the code again, completely.',
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
      message: 'unreadable',
      params: { ...placeParams(part, problem), problem: problem.message },
      role: 'stop',
    }));
  },
});
