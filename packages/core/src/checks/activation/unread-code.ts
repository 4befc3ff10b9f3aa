import { partName } from '../../snapshot/index.js';
import type { Check } from '../check.js';
import { problemsOfKind } from './of-facts.js';

const DEEP = `<script>x = ${'['.repeat(600)}${']'.repeat(600)}</script>`;

export const unreadCode: Check = {
  id: 'unread-code',
  area: 'activation',
  severity: 'error',
  title: 'Code that could not be read',
  why: 'Code is read within limits, so that no snippet can hold up the others. Nothing is known of code beyond them: not what it loads, not what it needs, not whether it is there twice.',
  isFixable: false,
  wrong: [{ name: 'Counter', parts: [{ placement: 'head-end', code: DEEP }] }],
  right: [{ name: 'Counter', parts: [{ placement: 'head-end', code: '<script>x = [[[]]]</script>' }] }],
  *run(set) {
    yield* problemsOfKind(set, 'unread', (part, problem) => ({
      title: `${partName(part)} could not be read`,
      advice: `${problem.message} It can be published with a reason, unchecked. Better: ask its provider for shorter code, or load it as a file.`,
      note: 'the code that was given up',
    }));
  },
};
