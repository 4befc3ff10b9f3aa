import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import type { Check } from '../check.js';

export const blockingScript: Check = {
  id: 'blocking-script',
  area: 'safety',
  severity: 'advice',
  title: 'A script that the whole page waits for',
  why: 'Visitors see nothing until it has arrived. If the provider’s server is slow or down, so is your page.',
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
        title: `The page waits for ${partName(part)}`,
        advice:
          'If the provider’s instructions allow it, add the word “async” to the tag, or place the code at the end of the body.',
        subjects: [subject(part)],
        evidence: [evidence(part, load.range, 'everything after this waits')],
      };
    }
  },
};
