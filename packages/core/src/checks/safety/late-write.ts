import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

export const lateWrite = defineCheck({
  id: 'late-write',
  area: 'safety',
  severity: 'error',
  title: 'document.write after the page has loaded',
  why: 'Once the page has loaded, document.write empties it: visitors see a blank page.',
  messages: {
    'late-write': {
      title: '{part} may empty the page',
      advice: 'Ask the provider for code without document.write, or run it while the page loads.',
    },
  },
  roles: {
    write: 'runs after the page has loaded',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Advert',
      parts: [
        {
          placement: 'body-end',
          code: "<script>addEventListener('load', function () { document.write('<p>Offer</p>'); });</script>",
        },
      ],
    },
  ],
  right: [
    {
      name: 'Advert',
      parts: [{ placement: 'body-end', code: "<script>document.write('<p>Offer</p>');</script>" }],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      const write = part.facts.writes.find(({ when }) => when !== 'parse');
      if (!write) continue;
      yield {
        about: 'write',
        message: 'late-write',
        params: { part: partName(part) },
        subjects: [subject(part)],
        evidence: [evidence(part, write.range, 'write')],
      };
    }
  },
});
