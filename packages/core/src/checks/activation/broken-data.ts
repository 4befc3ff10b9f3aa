import { defineCheck } from '../check.js';
import { placeParams, problemsOfKind } from './of-facts.js';

export const brokenData = defineCheck({
  id: 'broken-data',
  area: 'activation',
  severity: 'error',
  title: 'Structured data is not valid JSON',
  why: 'Search engines ignore such data altogether, without telling anybody.',
  messages: {
    invalid: {
      title: 'The data in {part} is not valid',
      advice:
        'The JSON breaks at line {line}, column {column} of {part}. Look for an extra comma, or a missing quote or brace.',
    },
  },
  roles: {
    stop: 'reading stops here',
  },
  isFixable: false,
  wrong: [
    {
      name: 'About us',
      parts: [
        {
          placement: 'head-end',
          code: '<script type="application/ld+json">{ "@type": "Organization", }</script>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'About us',
      parts: [
        {
          placement: 'head-end',
          code: '<script type="application/ld+json">{ "@type": "Organization" }</script>',
        },
      ],
    },
  ],
  *run(set) {
    yield* problemsOfKind(set, 'json', (part, problem) => ({
      message: 'invalid',
      params: placeParams(part, problem),
      role: 'stop',
    }));
  },
});
