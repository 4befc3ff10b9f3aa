import { partName } from '../../snapshot/index.js';
import type { Check } from '../check.js';
import { marksOfKind } from './of-facts.js';

export const placeholder: Check = {
  id: 'placeholder',
  area: 'activation',
  severity: 'error',
  title: 'An example’s value instead of your own',
  why: 'The code still has the value that the instructions show. It reports to nobody, or to somebody else.',
  isFixable: false,
  wrong: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://tallymast.example/count.js?id=YOUR_ACCOUNT_ID"></script>',
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
          code: '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>',
        },
      ],
    },
  ],
  *run(set) {
    yield* marksOfKind(set, 'placeholder', (part, mark) => ({
      title: `${partName(part)} still has the example’s “${mark.value}”`,
      advice:
        'Find your own value on the provider’s page, often under “account” or “installation”, and write it here.',
      note: mark.confidence === 'certain' ? 'stands for your own value' : 'looks like an example',
    }));
  },
};
