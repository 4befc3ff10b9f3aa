import { partName } from '../../snapshot/index.js';
import { domainOf, type Load, type Range, type ShapeKind } from '../../facts/index.js';
import type { FileBook } from '../../survey/index.js';
import type { CheckedSet, HardCoded } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import { tieOfParts } from '../tie.js';
import { defineCheck } from '../check.js';
import type { PageThing } from '../page-code.js';
import type { ReadPart } from '../read-part.js';
import { fileName } from '../tag-text.js';

const COUNTER = '<script async src="https://tallymast.example/count.js" data-account="TM-7731"></script>';

/** Providers that they load from, and those that files of theirs fetch from. */
const byFetched = tieOfParts((part, { files }) =>
  files.isEmpty
    ? []
    : [...countedBy(part), ...fetchedBy(part.facts.loads, files)].map(({ domain }) => domain),
);

export const hardCoded = defineCheck({
  id: 'hard-coded',
  area: 'duplicates',
  severity: 'warning',
  title: 'Also hard-coded in the site',
  why: 'A theme or an earlier agency put the same code into the pages. Both run, so visits count double, and switching the snippet off stops only one.',
  asks: ['survey'],
  messages: {
    'same-code': {
      title: '{part} is also hard-coded in the site',
      advice:
        'The same code is written into {count, plural, one {the page {page}} other {# pages, such as {page}}}. Remove it there; it is probably in the site’s theme or template.',
    },
    'same-account': {
      title: 'The site itself reports to the same account as {part}',
      advice:
        'Other code for the account {account} is written into {count, plural, one {the page {page}} other {# pages, such as {page}}}. Remove it there; it is probably in the site’s theme or template.',
    },
    'by-container': {
      title: '{part} may run twice: {file} loads {domain} too',
      advice:
        '{carrier} also loads scripts from {domain}, on {page} for example. Check that container, and keep one of the two.',
    },
    'same-file': {
      title: '{part} loads a file that the site already loads',
      advice:
        '{count, plural, one {The page {page} loads} other {# pages, such as {page}, load}} {file} already. Remove it from {part} if all its pages have it, or from the site.',
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
  ties: [byFetched],
  *runOnWhole(set) {
    const found = inPages(set);
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
  *run(set) {
    if (!set.files.isEmpty) yield* byContainers(set);
  },
});

/** What stands in the pages and runs there beside what we put in. */
function inPages(set: CheckedSet): HardCoded[] {
  return set.hardCoded.filter(
    ({ match: { kind }, sighting: { seen }, part }) =>
      kind !== 'other-account' &&
      seen.states.includes('active') &&
      seen.others.examples.some((page) => set.runsOn(part.snippet, page)),
  );
}

function widest(pieces: readonly HardCoded[]): HardCoded {
  return pieces.reduce((a, b) => (b.sighting.seen.others.pages > a.sighting.seen.others.pages ? b : a));
}

/** Kinds of which a second one counts twice. */
const COUNTING: ReadonlySet<ShapeKind> = new Set(['analytics', 'pixel', 'container']);

/** Providers that a file, as tag containers are, fetches scripts from, beside the snippet that does so by itself. */
function* byContainers(set: CheckedSet) {
  const carriers = carriersOf(set);
  if (carriers.size === 0) return;
  const told = new Set(inPages(set).map(({ part }) => part));
  for (const part of set.running) {
    if (told.has(part)) continue;
    for (const { domain, range } of countedBy(part)) {
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

/** The providers that a part that counts loads scripts from. */
function countedBy({
  facts: { shape, loads },
}: ReadPart): { readonly domain: string; readonly range: Range }[] {
  if (!COUNTING.has(shape.kind)) return [];
  return loads.flatMap(({ kind, noScript, address, range }) => {
    const domain = kind === 'script' && !noScript ? domainOf(address) : undefined;
    return domain === undefined ? [] : [{ domain, range }];
  });
}

/** Other providers' domains that the files fetch scripts from which something loads, each with the file. */
function fetchedBy(
  loads: readonly Load[],
  files: FileBook,
  path?: string,
): { readonly domain: string; readonly file: string }[] {
  return loads.flatMap(({ address, kind }) => {
    const asks = (kind === 'script' ? files.find(address, path)?.asks : undefined) ?? [];
    const own = asks.length === 0 ? undefined : domainOf(address);
    return asks.flatMap((asked) => {
      const host = /^script ([a-z0-9.-]+)$/.exec(asked)?.[1];
      const domain = host === undefined ? undefined : domainOf(`//${host}`);
      return domain === undefined || domain === own ? [] : [{ domain, file: fileName(address) }];
    });
  });
}

/** All that loads such files, by those domains. */
function carriersOf({ near, files, pageCode }: CheckedSet): Map<string, Carrier[]> {
  const found = new Map<string, Carrier[]>();
  const add = (fetched: ReturnType<typeof fetchedBy>, carrier: Omit<Carrier, 'file'>): void => {
    for (const { domain, file } of fetched) {
      const list = found.get(domain);
      if (list) list.push({ ...carrier, file });
      else found.set(domain, [{ ...carrier, file }]);
    }
  };
  for (const part of near.running) add(fetchedBy(part.facts.loads, files), { part, name: partName(part) });
  for (const thing of pageCode.things)
    add(fetchedBy(thing.facts.loads, files, thing.sighting.firstPath), { thing, name: thing.sighting.name });
  return found;
}

function meetingOf(set: CheckedSet, part: ReadPart, { part: other, thing }: Carrier): string | undefined {
  return other ? set.meeting(part, other) : set.pageCode.pageWith(thing!, part.snippet);
}
