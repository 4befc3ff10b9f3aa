import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import { marksOfKind } from './of-facts.js';

export const placeholder = defineCheck({
  id: 'placeholder',
  area: 'activation',
  severity: 'error',
  title: 'An example’s value instead of your own',
  why: 'The code still has the value that the instructions show. It reports to nobody, or to somebody else.',
  messages: {
    example: {
      title: '{part} still has the example’s “{value}”',
      advice:
        'Find your own value on the provider’s page, often under “account” or “installation”, and write it here.',
    },
  },
  roles: {
    placeholder: 'stands for your own value',
    likely: 'looks like an example',
  },
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
      message: 'example',
      params: { part: partName(part), value: mark.value },
      role: mark.confidence === 'certain' ? 'placeholder' : 'likely',
    }));
  },
});
