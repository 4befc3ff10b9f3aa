import { partName } from '../../snapshot/index.js';
import type { Check } from '../check.js';
import { marksOfKind } from './of-facts.js';

export const testMode: Check = {
  id: 'test-mode',
  area: 'activation',
  severity: 'warning',
  title: 'A test mode that is still on',
  why: 'In test mode most tools keep nothing, or show visitors what only you should see.',
  isFixable: false,
  wrong: [
    {
      name: 'Offer',
      parts: [{ placement: 'body-end', code: '<script>window.nudgelet = { testMode: true };</script>' }],
    },
  ],
  right: [
    {
      name: 'Offer',
      parts: [{ placement: 'body-end', code: '<script>window.nudgelet = { testMode: false };</script>' }],
    },
  ],
  *run(set) {
    const onLive = set.running.filter(({ snippet }) => snippet.limits?.environment !== 'staging');
    yield* marksOfKind({ running: onLive }, 'test', (part, mark) => ({
      title: `${partName(part)} seems to be in test mode`,
      advice: 'Switch the test mode off before you publish to the live site, or let it run on staging only.',
      note: mark.value,
    }));
  },
};
