import { addressShape, pageMatcher, pageOf, sectionOf, shortestPageRules } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { propertyRuns } from '../../support/property-runs.js';

const isOwn = (host: string): boolean => host === 'www.example.com';

describe('the pages that a walk takes', () => {
  for (const [address, page] of [
    ['https://www.example.com/news#top', '/news'],
    ['https://www.example.com/', '/'],
    ['https://www.example.com/news?b=2&a=1', '/news?a=1&b=2'],
    ['https://www.example.com/news?utm_source=mail&page=2', '/news?page=2'],
    ['https://www.example.com/news?utm_source=mail', '/news'],
    ['https://www.example.com/f%C3%A4hre', '/f%C3%A4hre'],
    ['https://elsewhere.example/news', undefined],
    ['https://www.example.com/ship.JPG', undefined],
    ['ftp://www.example.com/news', undefined],
    ['https://www.example.com/a/a/a/a/b', undefined],
    [`https://www.example.com/${'x'.repeat(2000)}`, undefined],
    ['no address', undefined],
  ] as const)
    it(`${address.slice(0, 60)} → ${page ?? 'none'}`, () => {
      expect(pageOf(address, isOwn)).to.equal(page);
    });

  it('are counted by shape where they are many of one: filters and calendars', () => {
    expect(addressShape('/calendar?month=3&year=2027')?.shape).to.equal('/calendar?month&year');
    expect(addressShape('/log/2027/03')?.shape).to.equal('/log/#/#');
    expect(addressShape('/news/17')).to.equal(undefined);
    expect(addressShape('/part-3/page-17')).to.equal(undefined);
    expect(addressShape('/list/7?page=2')).to.deep.equal({ shape: '/list/#?page', limit: 25 });
  });

  it('belong to the section that their first folder names', () => {
    for (const path of ['/news', '/news/a/b', '/news?x=1', '/news/a.html'])
      expect(sectionOf(path), path).to.equal('/news');
    // A site without folders is one section, not one a page.
    for (const path of ['/', '/?x=1', '/fares.html', '/fares.php?day=1'])
      expect(sectionOf(path), path).to.equal('/');
  });
});

describe('the shortest page rules', () => {
  const SITE = ['/', '/fares', '/news', '/news/a', '/news/b', '/news/c', '/news/c?old=1', '/islands/x'];
  for (const [what, wanted, include, exclude] of [
    ['all pages', SITE, [], []],
    ['one page', ['/fares'], ['/fares'], []],
    ['a folder', ['/news/a', '/news/b', '/news/c', '/news/c?old=1'], ['/news/*'], []],
    ['all but one', SITE.filter((page) => page !== '/fares'), [], ['/fares']],
    ['a folder but for one', ['/news/b', '/news/c', '/news/c?old=1'], ['/news/b', '/news/c'], []],
    ['one of two with one path', ['/news/c?old=1'], ['/news/c?old=1'], []],
    ['the other of the two', ['/news/c'], ['/news/c?'], []],
  ] as const)
    it(`for ${what}`, () => {
      expect(shortestPageRules(wanted, SITE)).to.deep.equal({ include, exclude });
    });

  it('hold just the wanted pages, whatever they are called, and need no more patterns than there are pages', () => {
    const segment = fc.constantFrom('a', 'b', 'new s', 'x:y', '(1)', '{z}', 'w*', 'q+', 'c\\d', '');
    const page = fc
      .tuple(fc.array(segment, { maxLength: 4 }), fc.constantFrom('', '?p=1', '?p=2&q=*'))
      .map(([segments, search]) => {
        const { pathname } = new URL(`http://site.test/${segments.join('/').replace(/^\/+/, '')}`);
        return pathname.replace(/^\/\/+/, '/') + search;
      });
    fc.assert(
      fc.property(
        fc.uniqueArray(page, { minLength: 1, maxLength: 25 }),
        fc.func(fc.boolean()),
        (known, choose) => {
          const wanted = known.filter((one) => choose(one));
          if (wanted.length === 0) return;
          const rules = shortestPageRules(wanted, known);
          const matcher = pageMatcher(rules);
          expect(known.filter((one) => matcher.match(one).matches)).to.deep.equal(wanted);
          expect(rules.include.length + rules.exclude.length).to.be.at.most(
            Math.min(wanted.length, known.length - wanted.length) || Infinity,
          );
        },
      ),
      propertyRuns(1_000),
    );
  });
});
