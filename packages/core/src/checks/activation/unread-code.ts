import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import { problemsOfKind } from './of-facts.js';

const DEEP = `<script>x = ${'['.repeat(600)}${']'.repeat(600)}</script>`;

export const unreadCode = defineCheck({
  id: 'unread-code',
  area: 'activation',
  severity: 'error',
  title: 'Code that could not be checked',
  why: 'Code is checked within limits, so that no snippet can hold up the others. Nothing is known about code beyond them: what it loads, what it needs, or whether it is there twice.',
  messages: {
    unread: {
      title: '{part} could not be checked',
      advice:
        '{problem} You can publish it unchecked if you give a reason. Better: ask its provider for shorter code, or load it as a file.',
    },
    'unfinished-set': {
      title: 'The checks could not be finished',
      advice:
        'This set took longer to check than allowed. Remove the longest snippets one by one until the checks finish; the last one you removed is the cause.',
    },
  },
  roles: {
    code: 'the code that was given up',
  },
  isFixable: false,
  wrong: [{ name: 'Counter', parts: [{ placement: 'head-end', code: DEEP }] }],
  right: [{ name: 'Counter', parts: [{ placement: 'head-end', code: '<script>x = [[[]]]</script>' }] }],
  *run(set) {
    yield* problemsOfKind(set, 'unread', (part, problem) => ({
      message: 'unread',
      params: { part: partName(part), problem: problem.message },
      role: 'code',
    }));
  },
});
