import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

export const blockingScript = defineCheck({
  id: 'blocking-script',
  area: 'safety',
  severity: 'advice',
  title: 'A script that the whole page waits for',
  why: 'Visitors see nothing until it has arrived. If the provider’s server is slow or down, so is your page.',
  messages: {
    waits: {
      title: 'The page waits for {part}',
      advice:
        'If the provider’s instructions allow it, add the word “async” to the tag, or place the code at the end of the body.',
    },
  },
  roles: {
    script: 'everything after this waits',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Counter',
      parts: [{ placement: 'head-end', code: '<script src="https://tallymast.example/count.js"></script>' }],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [
        { placement: 'head-end', code: '<script async src="https://tallymast.example/count.js"></script>' },
      ],
    },
    {
      name: 'Consent',
      parts: [
        { placement: 'head-start', code: '<script src="https://biscuitkeel.example/consent.js"></script>' },
      ],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      // What asks for consent has to come first.
      if (!part.isInHead || part.facts.shape.kind === 'consent') continue;
      const load = part.facts.loads.find(
        ({ kind, mode, noScript }) => kind === 'script' && mode === 'blocking' && !noScript,
      );
      if (!load) continue;
      yield {
        about: load.address,
        message: 'waits',
        params: { part: partName(part) },
        subjects: [subject(part)],
        evidence: [evidence(part, load.range, 'script')],
      };
    }
  },
});
