import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

const CHAT = '<script src="https://parlanook.example/chat.js"></script>';

export const missingOnPages = defineCheck({
  id: 'missing-on-pages',
  area: 'activation',
  severity: 'warning',
  title: 'Published, but not on the pages',
  why: 'Visitors to these pages do not get it although it is live: the pages come from somewhere else, a cache serves an old copy, or something strips the code.',
  asks: ['survey'],
  messages: {
    some: {
      title: '{part} is missing on {missing} of {expected} pages',
      advice:
        'The last survey did not find it on {page}, for example. Check that this page reaches visitors through Pragmatica, and that no cache serves an older copy.',
    },
    all: {
      title: '{part} is on none of its pages',
      advice:
        'The last survey looked at {expected, plural, one {one page} other {# pages}} and found it on none. Check that the site’s address leads to Pragmatica. If you paste the code by hand, check that the editor keeps script tags.',
    },
    changed: {
      title: '{part} reaches visitors changed',
      advice:
        'On {page}, for example, the code looks different. Something between Pragmatica and the visitor rewrites it, such as a page-speed service. Exclude this code there.',
    },
  },
  roles: { part: 'here' },
  isFixable: false,
  wrong: [{ name: 'Chat', parts: [{ placement: 'body-end', code: CHAT }] }],
  right: [{ name: 'Chat', parts: [{ placement: 'body-end', code: CHAT }], state: 'off' }],
  pages: {
    '/fares': '<!DOCTYPE html><html><head><title>Fares</title></head><body><p>Fares</p></body></html>',
  },
  undelivered: ['/fares'],
  *runOnWhole(set) {
    for (const { part: key, code, missing, expected, examples } of set.absent) {
      const part = set.running.find((one) => one.key === key);
      // What has been changed since is not what was looked for.
      if (!part || part.code !== code || missing === 0) continue;
      const rewritten = set.hardCoded.find(
        ({ match, sighting }) =>
          match.part === key && match.kind !== 'same' && (sighting.seen.without.get(key) ?? 0) > 0,
      );
      const about = {
        about: key,
        subjects: [subject(part)],
        evidence: [evidence(part, { start: 0, end: part.code.length }, 'part')],
      } as const;
      const [page] = rewritten?.sighting.seen.others.examples ?? examples;
      const name = partName(part);
      if (rewritten) yield { ...about, message: 'changed', params: { part: name, page: page! } };
      else if (missing === expected) yield { ...about, message: 'all', params: { part: name, expected } };
      else yield { ...about, message: 'some', params: { part: name, missing, expected, page: page! } };
    }
  },
});
