import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import { problemsOfKind } from './of-facts.js';

const DEEP = `<script>x = ${'['.repeat(600)}${']'.repeat(600)}</script>`;

export const unreadCode = defineCheck({
  id: 'unread-code',
  area: 'activation',
  severity: 'error',
  title: 'Code that could not be read',
  why: 'Code is read within limits, so that no snippet can hold up the others. Nothing is known of code beyond them: not what it loads, not what it needs, not whether it is there twice.',
  messages: {
    unread: {
      title: '{part} could not be read',
      advice:
        '{problem} It can be published with a reason, unchecked. Better: ask its provider for shorter code, or load it as a file.',
    },
    'unfinished-set': {
      title: 'The checks could not be finished',
      advice:
        'Reading this set took longer than checks may take. Remove the longest snippets one by one until the checks finish; the last one removed is the cause.',
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
