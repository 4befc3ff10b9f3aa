import { expect } from 'chai';
import fc from 'fast-check';
import {
  PageMatcher,
  PageUniverse,
  PatternSet,
  pageProgram,
  pageAddress,
  pageMatcher,
  pagePatternProblem,
  withoutGroups,
  type PageRules,
} from '@pragmatica/core';
import { URLPattern } from 'urlpattern-polyfill';
import { matchesText } from '../../../packages/core/dist/deliver/one-line/browser/reach.js';
import { ownTimeMs } from '../../support/own-time.js';
import { propertyRuns } from '../../support/property-runs.js';

const ONLY = (...include: string[]): PageRules => ({ include, exclude: [] });
const matches = (source: string, page: string, host = ''): boolean =>
  new PageMatcher(ONLY(source)).match(pageAddress(page, host)).matches;

describe('regular expressions in page patterns', () => {
  it('match what the standard says', () => {
    const atom = fc.constantFrom(
      'a',
      'b',
      '[ab]',
      '[^a]',
      '\\d',
      '\\w',
      '.',
      '(?:ab)',
      '(?:a|b-)',
      '\\.',
      '[a-c1]',
      '1',
    );
    const quantified = fc
      .tuple(atom, fc.constantFrom('', '', '*', '+', '?', '{2}', '{1,2}', '{2,}', '+?'))
      .map((pieces) => pieces.join(''));
    const alternative = fc.array(quantified, { minLength: 1, maxLength: 4 }).map((pieces) => pieces.join(''));
    const expression = fc.array(alternative, { minLength: 1, maxLength: 2 }).map((all) => all.join('|'));
    const frame = fc.constantFrom<(inner: string) => string>(
      (inner) => `/(${inner})`,
      (inner) => `/x/(${inner})/y`,
      (inner) => `/:name(${inner})?`,
      (inner) => `{/(${inner})}+`,
      (inner) => `/a(${inner})*`,
    );
    const text = fc
      .array(fc.constantFrom('/', 'a', 'b', '1', '-', '.', 'c', 'x', '/x/', '/y', 'ab'), { maxLength: 7 })
      .map((pieces) => `/${pieces.join('')}`);
    let matched = 0;
    fc.assert(
      fc.property(expression, frame, text, (inner, around, target) => {
        const source = around(inner);
        const { pathname } = pageAddress(target);
        if (pathname.startsWith('//')) return;
        const expected = new URLPattern({ pathname: source }).test({ pathname });
        if (expected) matched++;
        expect(matches(source, pathname), `${source} ${pathname}`).to.equal(expected);
      }),
      propertyRuns(10_000),
    );
    expect(matched).to.be.greaterThan(300);
  });

  it('stay in their component', () => {
    expect(matches('/(.+)', '/a?b')).to.equal(true);
    expect(matches('/(.+)b', '/a?b')).to.equal(false);
    expect(matches('/([^a])', '/?')).to.equal(false);
    expect(matches('//(.+)/a', '/a', 'www.mill.example')).to.equal(true);
    expect(matches('//([^x]+)/a', '/b/a', 'www.mill.example')).to.equal(false);
  });

  it('are refused where they cannot be matched in one pass, with the reason', () => {
    for (const [source, reason] of [
      ['/((?=a)a)', /looks ahead or back/],
      ['/(?:a)', /cannot begin with a question mark/],
      ['/(a\\b)', /looks ahead or back/],
      ['/([)', /regular expression within the brackets is not valid/],
      ['/((?:(?:a{50}){50}){50})', /too large/],
    ] as const)
      expect(pagePatternProblem(source), source).to.match(reason);
  });

  /** Each doubles its time with every letter, or cubes it, in an engine that tries one way after the other. */
  for (const [source, page] of [
    ['/news/((?:[a-z]+-?)+)/print', `/news/${'a'.repeat(50_000)}`],
    ['/((?:a|aa)+)x', `/${'a'.repeat(50_000)}`],
    ['/((?:.*a){12})', `/${'a'.repeat(50_000)}b`],
    ['/*a*a*a*a*a*a*b', `/${'a'.repeat(50_000)}`],
    ['/:a-:b-:c-:d-:e/x', `/${'-'.repeat(50_000)}`],
    ['/((?:[ab]*a[ab]{300}))', `/${'ab'.repeat(25_000)}`],
  ] as const)
    it(`take one pass over an address: ${source}`, () => {
      const begin = ownTimeMs();
      matches(source, page);
      // A second is a hundred times what it takes, and nothing beside for ever.
      expect(ownTimeMs() - begin).to.be.below(10_000);
    });
});

describe('page patterns', () => {
  it('are refused where the standard refuses them, and match what it says', () => {
    const piece = fc.constantFrom(
      ...['/', 'a', 'b', '.', ':x', ':y', '*', '{', '}', '?', '+', '-', '{a}?', '/b', '{/a}*', '{:z/}+'],
      ...['%41', '%2e', 'é', '\\*', '(a|b)'],
    );
    const pattern = fc.array(piece, { maxLength: 6 }).map((pieces) => `/${pieces.join('')}`);
    const steps = fc.constantFrom('/', 'a', 'b', '.', '-', 'ab', '%41', '%C3%A9', '*');
    const path = fc.array(steps, { maxLength: 7 }).map((pieces) => `/${pieces.join('')}`);
    let compared = 0;
    let matched = 0;
    fc.assert(
      fc.property(pattern, path, (source, target) => {
        const { pathname } = pageAddress(target);
        // The package takes what begins with two slashes for a host; a question mark of its own begins a search.
        if (pathname.startsWith('//') || source.startsWith('//')) return;
        if (
          source
            .replace(/\\./g, '-')
            .replace(/:[\w\u0080-\uffff]+\?|[*})]\?/g, '')
            .includes('?')
        )
          return;
        let theirs: URLPattern | undefined;
        try {
          theirs = new URLPattern({ pathname: source });
        } catch {
          theirs = undefined;
        }
        expect(pagePatternProblem(source) === undefined, source).to.equal(theirs !== undefined);
        if (!theirs) return;
        compared++;
        const expected = theirs.test({ pathname });
        if (expected) matched++;
        expect(matches(source, pathname), `${source} ${pathname}`).to.equal(expected);
      }),
      propertyRuns(10_000),
    );
    expect(compared).to.be.greaterThan(1000);
    expect(matched).to.be.greaterThan(100);
  });

  it('leave what may be missing out as a whole', () => {
    const cases: readonly (readonly [pattern: string, page: string, expected: boolean])[] = [
      ['/a/:x?', '/a', true],
      ['/a/:x?', '/a/b', true],
      ['/a/:x?', '/ab', false],
      ['/a/*?', '/ab', false],
      ['/a{/*}?', '/ab', false],
      ['/a{-:x}?', '/ab', false],
      ['/a{/:x}*', '/ab', false],
      ['/a{/:x}*', '/a/b/c', true],
      ['/{:z/}+/:y?', '/a/a', false],
    ];
    for (const [pattern, page, expected] of cases)
      expect(matches(pattern, page), `${pattern} ${page}`).to.equal(expected);
  });

  it('may say a host and a search', () => {
    expect(matches('//www.mill.example/*', '/a', 'www.mill.example')).to.equal(true);
    expect(matches('//www.mill.example/*', '/a', 'shop.mill.example')).to.equal(false);
    expect(matches('//:name.mill.example/*', '/a', 'shop.mill.example')).to.equal(true);
    expect(matches('//:name.mill.example/*', '/a', 'a.b.mill.example')).to.equal(false);
    expect(matches('/fares?day=*', '/fares?day=2')).to.equal(true);
    expect(matches('/fares?day=*', '/fares')).to.equal(false);
    expect(matches('/fares', '/fares?day=2'), 'no search means any').to.equal(true);
    expect(matches('/:page?', '/fares'), 'it belongs to the name').to.equal(true);
    expect(matches('/:page?', '/')).to.equal(false);
    expect(matches('/book/:step?back=yes', '/book/2'), 'it belongs to the name, too').to.equal(false);
  });

  it('say what is wrong with them', () => {
    expect(pagePatternProblem('fares')).to.include('"/fares"');
    expect(pagePatternProblem('/(')).to.include('not closed');
    expect(pagePatternProblem('/{a')).to.include('curly bracket');
    expect(pagePatternProblem('/a}')).to.include('"}" cannot go there');
    expect(pagePatternProblem('/:a/:a')).to.include('":a" is used twice');
    expect(pagePatternProblem('/a#b')).to.include('servers never see it');
    expect(pagePatternProblem('//mill.example')).to.include('/*');
    expect(pagePatternProblem('/([)')).to.include('regular expression within the brackets is not valid');
    expect(pagePatternProblem('@Confirmation pages')).to.include('@confirmation-pages');
    expect(pagePatternProblem('@confirmation')).to.equal(undefined);
  });

  it('are asked together as each alone', () => {
    const source = fc.constantFrom(
      '/',
      '/a',
      '/a/*',
      '/*',
      '/:x',
      '/:x/b',
      '/a{/b}?',
      '//m.test/*',
      '/a?x=*',
      '/(a|b)',
    );
    const page = fc.constantFrom('/', '/a', '/a/b', '/b', '/a/b/c', '/a?x=1', '//a');
    fc.assert(
      fc.property(
        fc.uniqueArray(source),
        page,
        fc.constantFrom('', 'm.test', 'n.test'),
        (sources, target, host) => {
          const expected = sources.flatMap((one, number) => (matches(one, target, host) ? [number] : []));
          expect(new PatternSet(sources).match(pageAddress(target, host))).to.deep.equal(expected);
        },
      ),
      propertyRuns(300),
    );
  });

  it('are the same as regular expressions, for where there is nothing but an engine of these', () => {
    const piece = fc.constantFrom(
      ...[
        '/',
        'a',
        'b',
        '*',
        ':x',
        '{',
        '}',
        '?',
        '+',
        '(a|b)',
        '(\\d{2,3})',
        '([^/]b?)',
        '/a',
        '.',
        '-',
        '\\*',
      ],
    );
    const pattern = fc
      .tuple(
        fc.constantFrom('', '//m.test', '//:h.test', '//*'),
        fc.array(piece, { maxLength: 5 }),
        fc.constantFrom('', '?x=*', '?x=:y'),
      )
      .map(([host, pieces, search]) => `${host}/${pieces.join('').replaceAll(':x', () => ':x')}${search}`)
      .filter((source) => pagePatternProblem(source) === undefined);
    const target = fc
      .tuple(
        fc.array(fc.constantFrom('/', 'a', 'b', '1', '23', '.c', '*', '-'), { maxLength: 5 }),
        fc.constantFrom('', '?x=1', '?y', '?x='),
      )
      .map(([pieces, search]) => `/${pieces.join('').replace(/^\/+/, '')}${search}`);
    fc.assert(
      fc.property(pattern, target, fc.constantFrom('', 'm.test', 'a.b.test'), (source, page, host) => {
        const address = pageAddress(page, host);
        const text = `${address.host} ${address.pathname}?${address.search}`;
        expect(matchesText(pageProgram(source), text), `${source} ${page}`).to.equal(
          matches(source, page, host),
        );
      }),
      propertyRuns(2_000),
    );
    expect(matchesText(pageProgram('/('), 'm.test /(?')).to.equal(false);
  });

  it('forget states when somebody asks for ever new addresses, and go on as before', () => {
    const set = new PatternSet(['/*a????????????*'.replaceAll('?', ':x'.slice(0, 0)), '/*a*b*c*']);
    for (let i = 0; i < 2000; i++) set.match(pageAddress(`/${i.toString(3).replaceAll('0', 'a')}b`));
    expect(set.match(pageAddress('/xaxbxcx'))).to.deep.equal([0, 1]);
  });
});

describe('page groups', () => {
  const groups = [{ key: 'booked', name: 'Booked', patterns: ['/booked', '/booked/*'] }];

  it('stand for their patterns, and for no page where they are not there', () => {
    const rules = withoutGroups({ include: ['@booked', '/x'], exclude: ['@gone'] }, groups);
    expect(rules.include).to.deep.equal(['/booked', '/booked/*', '/x']);
    expect(new PageMatcher(rules).match('/booked/a').matches).to.equal(true);
    const gone = withoutGroups(ONLY('@gone'), groups);
    expect(new PageMatcher(gone).match('/').matches, 'not every page').to.equal(false);
  });
});

describe('sets of pages', () => {
  /** Every address of a small alphabet, up to a length. */
  const all: string[] = [];
  const grow = (text: string, left: number): void => {
    all.push(text);
    if (left > 0) for (const sign of 'abx/-') grow(text + sign, left - 1);
  };
  grow('/', 4);

  it('are compared for every possible page, as trying all of them does', () => {
    const source = fc
      .array(fc.constantFrom('/', 'a', 'b', ':x', '*', '/b', '{a}?', '-'), { minLength: 1, maxLength: 4 })
      .map((pieces) => `/${pieces.join('')}`)
      .filter((text) => !text.startsWith('//') && pagePatternProblem(text) === undefined);
    const rules = fc.record({
      include: fc.array(source, { maxLength: 2 }),
      exclude: fc.array(source, { maxLength: 2 }),
    });
    const counts = { found: 0, none: 0 };
    fc.assert(
      fc.property(rules, rules, (a, b) => {
        const universe = new PageUniverse([]);
        const held = (one: PageRules, page: string): boolean => pageMatcher(one).match(page).matches;
        const questions: [PageRules[], PageRules[]][] = [
          [[a, b], []],
          [[a], [b]],
          [[a], []],
        ];
        for (const [yes, no] of questions) {
          const fits = (page: string): boolean =>
            yes.every((one) => held(one, page)) && !no.some((one) => held(one, page));
          const { page, isExact } = universe.find(yes, no, []);
          expect(isExact).to.equal(true);
          const shown = JSON.stringify([yes, no, page]);
          if (page) expect(fits(page.pathname + (page.search && `?${page.search}`)), shown).to.equal(true);
          else expect(all.find(fits), shown).to.equal(undefined);
          counts[page ? 'found' : 'none']++;
        }
      }),
      propertyRuns(300),
    );
    expect(counts.found).to.be.greaterThan(100);
    expect(counts.none).to.be.greaterThan(50);
  });

  it('find the same known page by kinds of pages as by trying each', () => {
    const source = fc.constantFrom(
      '/',
      '/a',
      '/a/*',
      '/:x',
      '/:x/b',
      '//m.test/*',
      '/a?x=*',
      '/(a|b)',
      '/*b',
    );
    const rules = fc.record({
      include: fc.uniqueArray(source, { maxLength: 3 }),
      exclude: fc.uniqueArray(source, { maxLength: 2 }),
    });
    const paths = fc.uniqueArray(fc.constantFrom('/a', '/b', '/a/b', '/c/b', '/c/d', '/a?x=1', '/ab'));
    const hosts = fc.subarray(['m.test', 'n.test']);
    fc.assert(
      fc.property(
        fc.array(rules, { minLength: 1, maxLength: 3 }),
        rules,
        paths,
        hosts,
        (held, not, known, on) => {
          const all = [...held, not].flatMap(({ include, exclude }) => [...include, ...exclude]);
          const expected = new PageUniverse(known).find(held, [not], on);
          expect(new PageUniverse(known, [...new Set(all)]).find(held, [not], on)).to.deep.equal(expected);
        },
      ),
      propertyRuns(500),
    );
  });

  it('know which addresses there can be at all', () => {
    const universe = new PageUniverse([]);
    const none = (held: PageRules, ...not: PageRules[]): void => {
      const answer = universe.find([held], not, []);
      expect(answer, JSON.stringify(held)).to.deep.equal({ page: undefined, isExact: true });
    };
    none(ONLY('/a/*'), ONLY('/a/', '/a/:first', '/a/:first/*'), ONLY('/a//*'));
    none(ONLY('/a?x'), ONLY('/a'));
    none(ONLY('/'), ONLY('/*'));
    none({ include: ['/a', '/a/*'], exclude: ['/a*'] });
  });

  it('look only at the hosts that there are, and name one that decides', () => {
    const universe = new PageUniverse(['/fares']);
    const shop = ONLY('//shop.mill.example/*');
    expect(universe.find([shop], [], ['www.mill.example']).page).to.equal(undefined);
    expect(universe.find([shop], [], []).page?.host).to.equal('shop.mill.example');
    const both = universe.find([shop, ONLY('/fares')], [], ['www.mill.example', 'shop.mill.example']);
    expect(both.page).to.deep.equal({ host: 'shop.mill.example', pathname: '/fares', search: '' });
  });

  it('are decided with regular expressions of their own, too', () => {
    const universe = new PageUniverse(['/book/7']);
    const number = ONLY('/book/(\\d+)');
    expect(universe.find([number], [], []).page?.pathname).to.equal('/book/7');
    const other = universe.find([number], [ONLY('/book/7')], []);
    expect(other.isExact).to.equal(true);
    expect(other.page?.pathname)
      .to.match(/^\/book\/\d+$/)
      .and.not.equal('/book/7');
    expect(universe.find([number], [ONLY('/book/([0-9]{1,2})', '/book/([0-9]{3,})')], [])).to.deep.equal({
      page: undefined,
      isExact: true,
    });
  });
});
