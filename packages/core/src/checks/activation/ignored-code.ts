import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import { problemsOfKind } from './of-facts.js';

export const ignoredCode = defineCheck({
  id: 'ignored-code',
  area: 'activation',
  severity: 'warning',
  title: 'Code that no browser runs',
  why: 'A script tag with an address (src) ignores any code inside it. Settings or calls there have no effect.',
  messages: {
    ignored: { title: '{part} has code that never runs', advice: '{problem}' },
  },
  roles: {
    ignored: 'ignored',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script src="https://tallymast.example/count.js">window.tallyMode = 2;</script>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script>window.tallyMode = 2;</script>\n<script async src="https://tallymast.example/count.js"></script>',
        },
      ],
    },
  ],
  *run(set) {
    yield* problemsOfKind(set, 'ignored', (part, problem) => ({
      message: 'ignored',
      params: { part: partName(part), problem: problem.message },
      role: 'ignored',
    }));
  },
});
