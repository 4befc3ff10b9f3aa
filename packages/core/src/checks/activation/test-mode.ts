import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import { marksOfKind } from './of-facts.js';

export const testMode = defineCheck({
  id: 'test-mode',
  area: 'activation',
  severity: 'warning',
  title: 'A test mode that is still on',
  why: 'In test mode most tools keep nothing, or show visitors what only you should see.',
  messages: {
    test: {
      title: '{part} seems to be in test mode',
      advice: 'Switch the test mode off before you publish to the live site, or let it run on staging only.',
    },
  },
  roles: {
    mark: '{value}',
  },
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
      message: 'test',
      params: { part: partName(part), value: mark.value },
      role: 'mark',
    }));
  },
});
