import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

const OFFER = "<script>document.write('<p>Offer</p>');</script>";

export const writtenLate = defineCheck({
  id: 'written-late',
  area: 'delivery',
  severity: 'advice',
  title: 'Writes into a page that has finished loading',
  why: 'After the page has loaded, document.write would wipe it.',
  asks: ['hosts'],
  messages: {
    caught: {
      title: '{part} writes into the page with document.write',
      advice:
        'On {hosts} a script loads it after the page has loaded. Pragmatica catches what it writes and inserts it after its script; only elements that it leaves open look different. Look at the page once, or ask the provider for code without document.write.',
    },
  },
  roles: { write: 'what it writes is caught' },
  given: 'The site gets everything by the one line in its async form.',
  delivery: 'async-line',
  isFixable: false,
  wrong: [{ name: 'Offer', parts: [{ placement: 'body-end', code: OFFER }] }],
  right: [{ name: 'Offer', parts: [{ placement: 'body-end', code: '<p>Offer</p>' }] }],
  *run(set) {
    for (const part of set.running) {
      const write = part.facts.writes.find(({ when }) => when === 'parse');
      if (!write) continue;
      const hosts = set.hostsWhere(part, ['late']);
      if (hosts.length === 0) continue;
      yield {
        about: 'write',
        message: 'caught',
        params: { part: partName(part), hosts },
        subjects: [subject(part)],
        evidence: [evidence(part, write.range, 'write')],
      };
    }
  },
});
