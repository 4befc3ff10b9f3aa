import { defineCheck } from '../check.js';
import { placeParams, problemsOfKind } from './of-facts.js';

export const brokenData = defineCheck({
  id: 'broken-data',
  area: 'activation',
  severity: 'error',
  title: 'Data for machines that is not valid JSON',
  why: 'Search engines and others drop such data as a whole, without telling anybody.',
  messages: {
    invalid: {
      title: 'The data in {part} cannot be read',
      advice:
        'It is no valid JSON at line {line}, column {column} of {part}. Look for a comma too many, or a missing quote or brace.',
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
