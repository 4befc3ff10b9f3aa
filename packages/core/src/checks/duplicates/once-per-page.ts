import { memoizeByObject } from '../../memoize/by-object.js';
import type { Range, ReadCode } from '../../facts/index.js';
import { SINGLE_ELEMENTS, singleTags, type PageSkeleton } from '../../contain/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { groups } from '../groups.js';
import type { ReadPart } from '../read-part.js';
import { tieOfParts } from '../tie.js';
import { defineCheck } from '../check.js';

/** Each with the pattern of its opening tag. */
const SINGLE = SINGLE_ELEMENTS.map(({ what, tag, attribute, value }) => ({
  what,
  pattern:
    attribute === undefined
      ? new RegExp(`^<${tag}[\\s>]`, 'i')
      : new RegExp(
          `^<${tag}\\b[^>]*\\b${attribute}\\s*=\\s*${value === undefined ? '' : `["']?${value}\\b`}`,
          'i',
        ),
}));

interface Single {
  readonly part: ReadPart;
  readonly range: Range;
  readonly what: string;
}

const bySingle = tieOfParts(({ read }) => singlesOf(read).map(({ what }) => what));

export const oncePerPage = defineCheck({
  id: 'once-per-page',
  area: 'duplicates',
  severity: 'warning',
  title: 'Two of something that a page has once',
  why: 'A page has one title, one description, one canonical address. If there are two, browsers and search engines pick one, and not always the same.',
  asks: ['survey'],
  messages: {
    twice: {
      title: '{first} and {second} both give the page its {what}',
      advice: 'Keep one of them, or run them on different pages.',
    },
    'page-has': {
      title: '{first} gives the page a second {what}',
      advice:
        'On {page}, for example, the site already has its own. Remove it from {first}, or from the template.',
    },
  },
  roles: {
    first: 'given here',
    second: 'and again here',
  },
  isFixable: false,
  pages: {
    '/fares':
      '<!DOCTYPE html><html><head><title>Fares</title><link rel="canonical" href="/fares"></head><body><p>Fares</p></body></html>',
  },
  wrong: [
    {
      name: 'Address',
      parts: [{ placement: 'head-end', code: '<link rel="canonical" href="https://www.site.example/">' }],
    },
    {
      name: 'Search words',
      parts: [{ placement: 'head-end', code: '<meta name="description" content="Ferries between islands">' }],
    },
    {
      name: 'Summer words',
      parts: [{ placement: 'head-end', code: '<meta name="description" content="Summer ferries">' }],
    },
  ],
  right: [
    {
      name: 'Search words',
      parts: [{ placement: 'head-end', code: '<meta name="description" content="Ferries between islands">' }],
    },
    {
      name: 'Card colour',
      parts: [{ placement: 'head-end', code: '<meta name="theme-color" content="#0b3954">' }],
    },
  ],
  ties: [bySingle],
  *run(set) {
    const found = set.near.running.flatMap((part) =>
      singlesOf(part.read).map((single): Single => ({ part, ...single })),
    );
    for (const [first, ...others] of groups(found, ({ what }) => what)) {
      const second = others.find(({ part }) => set.meeting(first!.part, part) !== undefined);
      if (!second) continue;
      yield {
        about: first!.what,
        message: 'twice',
        params: { first: partName(first!.part), second: partName(second.part), what: first!.what },
        subjects:
          first!.part === second.part ? [subject(first!.part)] : [subject(first!.part), subject(second.part)],
        evidence: [
          evidence(first!.part, first!.range, 'first'),
          evidence(second.part, second.range, 'second'),
        ],
      };
    }
    for (const { part, range, what } of found) {
      const page = set.skeletonsOf(part).find((skeleton) => singlesOfPage(skeleton).has(what));
      if (page)
        yield {
          about: `${what} ${part.key}`,
          message: 'page-has',
          params: { first: partName(part), what, page: page.path },
          subjects: [subject(part)],
          evidence: [evidence(part, range, 'first')],
        };
    }
  },
});

const singlesOfPage = memoizeByObject(
  (skeleton: PageSkeleton) => new Set(singleTags(skeleton).flatMap((tag) => singleOf(tag)?.what ?? [])),
);

function singleOf(tag: string) {
  return SINGLE.find(({ pattern }) => pattern.test(tag));
}

const singlesOf = memoizeByObject(({ code, facts }: ReadCode) =>
  facts.pieces.flatMap(({ range }) => {
    const tag = code.slice(range.start, range.end);
    const single = singleOf(tag);
    return single ? [{ range, what: single.what }] : [];
  }),
);
