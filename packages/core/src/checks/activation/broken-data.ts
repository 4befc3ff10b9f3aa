import { partName } from '../../snapshot/index.js';
import type { Check } from '../check.js';
import { placeWords, problemsOfKind } from './of-facts.js';

export const brokenData: Check = {
  id: 'broken-data',
  area: 'activation',
  severity: 'error',
  title: 'Data for machines that is not valid JSON',
  why: 'Search engines and others drop such data as a whole, without telling anybody.',
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
      title: `The data in ${partName(part)} cannot be read`,
      advice: `It is no valid JSON at ${placeWords(part, problem)}. Look for a comma too many, or a missing quote or brace.`,
      note: 'reading stops here',
    }));
  },
};
