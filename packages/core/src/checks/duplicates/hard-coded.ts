import { partName } from '../../snapshot/index.js';
import { domainOf, type Load, type ShapeKind } from '../../facts/index.js';
import type { CheckedSet, HardCoded } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';
import type { PageThing } from '../page-code.js';
import type { ReadPart } from '../read-part.js';
import { fileName } from '../tag-text.js';

const COUNTER = '<script async src="https://tallymast.example/count.js" data-account="TM-7731"></script>';

export const hardCoded = defineCheck({
  id: 'hard-coded',
  area: 'duplicates',
  severity: 'warning',
  title: 'The same thing in the site itself',
  why: 'A theme or an earlier agency put the same code into the pages. Both run, so visits count double, and switching the snippet off stops only one of them.',
  asks: ['survey'],
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
    'by-container': {
      title: '{part} may run twice: {file} brings {domain}, too',
      advice:
        'What {carrier} loads fetches scripts of {domain} itself, on {page} for example. Look into that container, and keep one of the two.',
    },
    'same-file': {
      title: '{part} loads a file that the site itself loads, too',
      advice:
        '{count, plural, one {The page {page} loads} other {# pages, such as {page}, load}} {file} already. Take it out of {part} if all its pages have it, or remove it there.',
    },
  },
  roles: { part: 'here', loads: 'fetched here' },
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
    yield* byContainers(set, new Set(found.map(({ part }) => part)));
  },
});

function widest(pieces: readonly HardCoded[]): HardCoded {
  return pieces.reduce((a, b) => (b.sighting.seen.others.pages > a.sighting.seen.others.pages ? b : a));
}

/** Kinds of which a second one counts twice. */
const COUNTING: ReadonlySet<ShapeKind> = new Set(['analytics', 'pixel', 'container']);

/** Providers that a file, as tag containers are, fetches scripts from, beside the snippet that does so by itself. */
function* byContainers(set: CheckedSet, told: ReadonlySet<ReadPart>) {
  const carriers = carriersOf(set);
  if (carriers.size === 0) return;
  for (const part of set.running) {
    if (told.has(part) || !COUNTING.has(part.facts.shape.kind)) continue;
    for (const { kind, noScript, address, range } of part.facts.loads) {
      const domain = kind === 'script' && !noScript ? domainOf(address) : undefined;
      if (domain === undefined) continue;
      const carrier = carriers.get(domain)?.find((one) => one.part !== part);
      const page = carrier && meetingOf(set, part, carrier);
      if (page === undefined) continue;
      yield {
        about: `container ${domain}`,
        message: 'by-container' as const,
        params: {
          part: partName(part),
          file: carrier!.file,
          domain,
          carrier: carrier!.name,
          page,
          account: '',
          count: 0,
        },
        subjects: [subject(part), ...(carrier!.part ? [subject(carrier!.part)] : [])],
        evidence: [evidence(part, range, 'loads' as const)],
      };
      break;
    }
  }
}

interface Carrier {
  readonly file: string;
  readonly name: string;
  /** What loads the file: a part, or something in the pages. */
  readonly part?: ReadPart;
  readonly thing?: PageThing;
}

/** Files that fetch scripts of other providers than their own, by those providers' domains. */
function carriersOf(set: CheckedSet): Map<string, Carrier[]> {
  const found = new Map<string, Carrier[]>();
  const look = (loads: readonly Load[], path: string | undefined, carrier: Omit<Carrier, 'file'>): void => {
    for (const { address, kind } of loads) {
      const file = kind === 'script' ? set.files.find(address, path) : undefined;
      const own = domainOf(address);
      for (const asked of file?.asks ?? []) {
        const host = /^script ([a-z0-9.-]+)$/.exec(asked)?.[1];
        const domain = host === undefined ? undefined : domainOf(`//${host}`);
        if (domain === undefined || domain === own) continue;
        found.set(domain, [...(found.get(domain) ?? []), { ...carrier, file: fileName(address) }]);
      }
    }
  };
  for (const part of set.running) look(part.facts.loads, undefined, { part, name: partName(part) });
  for (const thing of set.pageCode.things)
    look(thing.facts.loads, thing.sighting.firstPath, { thing, name: thing.sighting.name });
  return found;
}

function meetingOf(set: CheckedSet, part: ReadPart, { part: other, thing }: Carrier): string | undefined {
  return other ? set.meeting(part, other) : set.pageCode.pageWith(thing!, part.snippet);
}
