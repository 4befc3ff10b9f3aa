import { partName } from '../../snapshot/index.js';
import { marksOfKind } from '../activation/of-facts.js';
import { defineCheck } from '../check.js';

export const secret = defineCheck({
  id: 'secret',
  area: 'safety',
  severity: 'error',
  title: 'A secret in the code',
  why: 'Anybody can read the code of a page. With a secret key or a password, others can act in your name at the provider.',
  messages: {
    secret: {
      title: '{part} exposes a secret to every visitor',
      advice:
        'Remove it, and create a new one at the provider: anybody who has seen the page knows the old one.',
    },
  },
  roles: {
    secret: 'a secret',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Booking',
      parts: [
        {
          placement: 'body-end',
          code: "<script>Slotwell.configure({ client_secret: 'f2c9b1d07a6e4410' });</script>",
        },
      ],
    },
  ],
  right: [
    {
      name: 'Booking',
      parts: [
        {
          placement: 'body-end',
          code: "<script>window.Slotwell && Slotwell.configure({ calendar: 'SW-2209' });</script>",
        },
      ],
    },
  ],
  *run(set) {
    yield* marksOfKind(set, 'secret', (part) => ({
      message: 'secret',
      params: { part: partName(part) },
      role: 'secret',
    }));
  },
});
