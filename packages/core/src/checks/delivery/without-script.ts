import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

const PIXEL =
  '<noscript><img src="https://glintpixel.example/p.gif?id=GP-5150" width="1" height="1" alt=""></noscript>';

export const withoutScript = defineCheck({
  id: 'without-script',
  area: 'delivery',
  severity: 'advice',
  title: 'A noscript piece that never shows',
  why: 'A noscript piece is for browsers without scripts. Where a script loads your code, those browsers get none of it.',
  asks: ['hosts'],
  messages: {
    script: {
      title: 'The noscript piece of {part} never shows on {hosts}',
      advice:
        'A script loads it there, and it is for browsers without scripts. If those visitors matter, put this piece into the site’s own pages; otherwise accept this finding.',
    },
  },
  roles: { noscript: 'for visitors without JavaScript' },
  given: 'The site gets everything by the one line.',
  delivery: 'line',
  isFixable: false,
  wrong: [{ name: 'Advert pixel', parts: [{ placement: 'body-end', code: PIXEL }] }],
  right: [
    {
      name: 'Advert pixel',
      parts: [
        { placement: 'body-end', code: '<script async src="https://glintpixel.example/p.js"></script>' },
      ],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      const piece = part.facts.pieces.find(({ kind }) => kind === 'noscript');
      if (!piece) continue;
      const hosts = set.hostsWhere(part, ['in-time', 'late']);
      if (hosts.length === 0) continue;
      yield {
        about: 'noscript',
        message: 'script',
        params: { part: partName(part), hosts },
        subjects: [subject(part)],
        evidence: [evidence(part, piece.range, 'noscript')],
      };
    }
  },
});
