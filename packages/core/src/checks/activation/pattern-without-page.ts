import { distance } from 'fastest-levenshtein';
import { memoizeByObject } from '../../memoize/by-object.js';
import { isGroupReference, pageMatcher } from '../../reach/index.js';
import { defineCheck } from '../check.js';

const CODE = '<meta name="a" content="b">';

export const patternWithoutPage = defineCheck({
  id: 'pattern-without-page',
  area: 'activation',
  severity: 'advice',
  title: 'A page rule matches no page',
  why: 'A missing letter in an address or a section that has moved is enough: the snippet is on, and no visitor gets it there.',
  asks: ['survey'],
  messages: {
    none: {
      title: '“{snippet}” names {pattern}, which matches no page',
      advice:
        'The last survey saw {pages, plural, one {one page} other {# pages}}, and none of them matches. If the page appears only after a booking or an order, all is well; otherwise correct the rule.',
    },
    near: {
      title: '“{snippet}” names {pattern}, which matches no page',
      advice:
        'The last survey saw {pages, plural, one {one page} other {# pages}}, and none of them matches; {near} is close. If you meant that, correct the rule.',
    },
    slip: {
      title: '“{snippet}” names {pattern}, but the page is {near}',
      advice:
        'No page matches {pattern}{slip, select, slash {: the slash at the end makes it a different address} case {: addresses are case-sensitive} wildcard {: nothing matches its *} other {}}. Use {near}.',
      fix: 'Use {near}.',
    },
    'slip-excluded': {
      title: '“{snippet}” excludes {pattern}, but the page is {near}',
      advice:
        'No page matches {pattern}{slip, select, slash {: the slash at the end makes it a different address} case {: addresses are case-sensitive} wildcard {: nothing matches its *} other {}}, so the snippet runs there after all. Use {near}.',
      fix: 'Use {near}.',
    },
    excluded: {
      title: '“{snippet}” excludes {pattern}, which matches no page',
      advice:
        'The last survey saw {pages, plural, one {one page} other {# pages}}, and none of them matches. If a page should be excluded, correct the rule.',
    },
    'near-excluded': {
      title: '“{snippet}” excludes {pattern}, which matches no page',
      advice:
        'The last survey saw {pages, plural, one {one page} other {# pages}}, and none of them matches; {near} is close. If you meant that, correct the rule.',
    },
  },
  isFixable: true,
  wrong: [
    { name: 'Fares', include: ['/fares/'], parts: [{ placement: 'head-end', code: CODE }] },
    { name: 'Prices', include: ['/fare'], parts: [{ placement: 'head-end', code: CODE }] },
  ],
  right: [{ name: 'Prices', include: ['/fares'], parts: [{ placement: 'head-end', code: CODE }] }],
  pages: {
    '/fares': '<!DOCTYPE html><html><head><title>Fares</title></head><body><p>Fares</p></body></html>',
  },
  *run(set) {
    if (!set.pageCode.isKnown || set.hasMorePages) return;
    const known = pagesBy(set.paths);
    for (const snippet of set.snapshot.snippets) {
      if (snippet.state !== 'on') continue;
      const { include, exclude } = snippet.pages;
      const rules = [
        ...include.map((pattern) => ({ pattern, isExcluded: false })),
        ...exclude.map((pattern) => ({ pattern, isExcluded: true })),
      ];
      for (const { pattern, isExcluded } of rules) {
        if (isGroupReference(pattern) || known.fits(pattern)) continue;
        const slip = known.slip(pattern);
        if (slip) {
          const replaced = (rules: readonly string[]): string[] =>
            rules.map((rule) => (rule === pattern ? slip.meant : rule));
          yield {
            about: `${isExcluded ? 'not ' : ''}${pattern}`,
            message: isExcluded ? 'slip-excluded' : 'slip',
            params: { snippet: snippet.name, pattern, near: slip.meant, slip: slip.kind },
            subjects: [{ snippet: snippet.key, name: snippet.name }],
            evidence: [],
            severity: 'warning',
            fix: [
              {
                kind: 'edit-pages',
                snippet: snippet.key,
                pages: { include: replaced(include), exclude: replaced(exclude) },
              },
            ],
          };
          continue;
        }
        const near = known.near(pattern);
        const params = { snippet: snippet.name, pattern, pages: set.paths.length, near: near ?? '' };
        yield {
          about: `${isExcluded ? 'not ' : ''}${pattern}`,
          message:
            near === undefined ? (isExcluded ? 'excluded' : 'none') : isExcluded ? 'near-excluded' : 'near',
          params,
          subjects: [{ snippet: snippet.key, name: snippet.name }],
          evidence: [],
        };
      }
    }
  },
});

/** Paths that a pattern is compared with by its letters; more say no more. */
const MAX_COMPARED = 3_000;
/** A path is close where at most this share of it would have to change. */
const CLOSE = 0.34;

type Slip = 'slash' | 'case' | 'wildcard';

/** Slips of the pen, and what may have been meant. */
const SLIPS: Readonly<Record<Slip, (pattern: string) => string[]>> = {
  slash: (pattern) =>
    pattern.endsWith('/')
      ? [pattern.slice(0, -1)]
      : /\.[a-z0-9]+$|[*?]/i.test(pattern)
        ? []
        : [`${pattern}/`],
  case: (pattern) => [pattern.toLowerCase(), pattern.toLowerCase().replace(/\/$/, '')],
  wildcard: (pattern) =>
    pattern.includes('*') && !pattern.endsWith('/*')
      ? [
          pattern.replace(/\/\*(?=\/)/g, ''),
          pattern.replace(/\*\/?(?=[^/*]+$)/, ''),
          `${pattern.replace(/\/?\*+/g, '')}/*`,
        ]
      : [],
};

/** What would hold every page is nobody's slip. */
function isTooWide(pattern: string): boolean {
  return /^\/\*?$/.test(pattern);
}

class KnownPaths {
  readonly #paths: readonly string[];
  readonly #fits = new Map<string, boolean>();

  constructor(paths: readonly string[]) {
    this.#paths = paths;
  }

  fits(pattern: string): boolean {
    let fits = this.#fits.get(pattern);
    if (fits === undefined) {
      const matcher = pageMatcher({ include: [pattern], exclude: [] });
      this.#fits.set(pattern, (fits = this.#paths.some((path) => matcher.match(path).matches)));
    }
    return fits;
  }

  /** What a pattern that fits no page was meant to be, where one slip explains it. */
  slip(pattern: string): { readonly kind: Slip; readonly meant: string } | undefined {
    for (const [kind, variants] of Object.entries(SLIPS) as [Slip, (pattern: string) => string[]][])
      for (const meant of variants(pattern))
        if (meant !== pattern && meant.startsWith('/') && !isTooWide(meant) && this.fits(meant))
          return { kind, meant };
    // In other letters than the page's own, the page tells how it is written.
    if (!/[*:({?]/.test(pattern)) {
      const lower = pattern.toLowerCase();
      const written = this.#paths.find((path) => path !== pattern && path.toLowerCase() === lower);
      if (written !== undefined) return { kind: 'case', meant: written };
    }
    return undefined;
  }

  /** The path that is most like a pattern, or the beginning of paths where the pattern holds all below one. */
  near(pattern: string): string | undefined {
    const isSection = pattern.endsWith('/*');
    const wanted = (isSection ? pattern.slice(0, -1) : pattern).toLowerCase();
    const depth = wanted.split('/').length;
    const candidates = new Set(
      this.#paths.slice(0, MAX_COMPARED).map((path) => {
        const steps = path.split('?', 1)[0]!.split('/');
        return isSection && steps.length >= depth ? `${steps.slice(0, depth - 1).join('/')}/` : path;
      }),
    );
    candidates.delete('/');
    let best: string | undefined;
    let least = Math.max(2, wanted.length * CLOSE);
    for (const candidate of candidates) {
      if (Math.abs(candidate.length - wanted.length) > least) continue;
      const far = distance(wanted, candidate.toLowerCase());
      if (far > least || (far === least && best !== undefined)) continue;
      [best, least] = [candidate, far];
    }
    return best === undefined || !isSection ? best : `${best}*`;
  }
}

const pagesBy = memoizeByObject((paths: readonly string[]) => new KnownPaths(paths));
