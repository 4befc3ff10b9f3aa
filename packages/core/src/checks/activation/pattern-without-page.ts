import { distance } from 'fastest-levenshtein';
import { memoizeByObject } from '../../memoize/by-object.js';
import { isGroupReference, pageMatcher } from '../../reach/index.js';
import { defineCheck } from '../check.js';

const CODE = '<meta name="a" content="b">';

export const patternWithoutPage = defineCheck({
  id: 'pattern-without-page',
  area: 'activation',
  severity: 'advice',
  title: 'A page rule that matches no page',
  why: 'A letter too few in an address, or a section that has moved: the snippet is on, and no visitor ever gets it there.',
  messages: {
    none: {
      title: '“{snippet}” names {pattern}, which matches no page',
      advice:
        'The last survey saw {pages, plural, one {one page} other {# pages}}, and none of them matches. If the page can be reached only after a booking or an order, all is well; otherwise correct the rule.',
    },
    near: {
      title: '“{snippet}” names {pattern}, which matches no page',
      advice:
        'The last survey saw {pages, plural, one {one page} other {# pages}}, and none of them matches; {near} is close. If that is what you mean, correct the rule.',
    },
    excluded: {
      title: '“{snippet}” leaves out {pattern}, which matches no page',
      advice:
        'The last survey saw {pages, plural, one {one page} other {# pages}}, and none of them matches. If a page is to be left out, correct the rule.',
    },
    'near-excluded': {
      title: '“{snippet}” leaves out {pattern}, which matches no page',
      advice:
        'The last survey saw {pages, plural, one {one page} other {# pages}}, and none of them matches; {near} is close. If that is what you mean, correct the rule.',
    },
  },
  isFixable: false,
  wrong: [{ name: 'Prices', include: ['/fare'], parts: [{ placement: 'head-end', code: CODE }] }],
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
