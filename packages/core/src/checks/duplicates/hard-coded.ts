import { partName } from '../../snapshot/index.js';
import type { HardCoded } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

const COUNTER = '<script async src="https://tallymast.example/count.js" data-account="TM-7731"></script>';

export const hardCoded = defineCheck({
  id: 'hard-coded',
  area: 'duplicates',
  severity: 'warning',
  title: 'The same thing in the site itself',
  why: 'A theme or an earlier agency put the same code into the pages. Both run, so visits count double, and switching the snippet off stops only one of them.',
  messages: {
    'same-code': {
      title: '{part} also stands in the site itself',
      advice:
        'The same code is written into {count, plural, one {the page {page}} other {# pages, such as {page}}}. Remove it there: most likely it is in the template (theme) of the site.',
    },
    'same-account': {
      title: 'The site itself reports to the same account as {part}',
      advice:
        'Other code for the account {account} is written into {count, plural, one {the page {page}} other {# pages, such as {page}}}. Remove it there: most likely it is in the template (theme) of the site.',
    },
    'same-file': {
      title: '{part} loads a file that the site itself loads, too',
      advice:
        '{count, plural, one {The page {page} loads} other {# pages, such as {page}, load}} {file} already. Take it out of {part} if all its pages have it, or remove it there.',
    },
  },
  roles: { part: 'here' },
  isFixable: false,
  wrong: [{ name: 'Counter', parts: [{ placement: 'head-end', code: COUNTER }] }],
  right: [{ name: 'Counter', parts: [{ placement: 'head-end', code: COUNTER }], include: ['/fares'] }],
  pages: {
    '/fares': '<!DOCTYPE html><html><head><title>Fares</title></head><body><p>Fares</p></body></html>',
    '/news': `<!DOCTYPE html><html><head><title>News</title>${COUNTER}</head><body><p>News</p></body></html>`,
  },
  *run(set) {
    const found = set.hardCoded.filter(
      ({ match: { kind }, sighting: { seen }, part }) =>
        kind !== 'other-account' &&
        seen.states.includes('active') &&
        seen.others.examples.some((page) => set.runsOn(part.snippet, page)),
    );
    // The pieces of one part are one thing.
    for (const part of new Set(found.map((one) => one.part))) {
      const pieces = found.filter((one) => one.part === part);
      const { sighting, match } = widest(pieces);
      const { examples, pages } = sighting.seen.others;
      const about = {
        about: part.key,
        subjects: [subject(part)],
        evidence: [evidence(part, { start: 0, end: part.code.length }, 'part')],
      } as const;
      const params = {
        part: partName(part),
        count: pages,
        page: examples.find((page) => set.runsOn(part.snippet, page))!,
      };
      if (match.kind === 'same-account')
        yield {
          ...about,
          message: 'same-account',
          params: { ...params, account: sighting.accounts[0]!.value },
        };
      else if (match.kind === 'same-loader')
        yield { ...about, message: 'same-file', params: { ...params, file: sighting.loads[0]! } };
      else yield { ...about, message: 'same-code', params };
    }
  },
});

function widest(pieces: readonly HardCoded[]): HardCoded {
  return pieces.reduce((a, b) => (b.sighting.seen.others.pages > a.sighting.seen.others.pages ? b : a));
}
