import { compareSides, type ComparedSides, type Composition } from '@pragmatica/core';
import { expect } from 'chai';

type Item = Composition['items'][number];
const item = (sighting: string, part?: string): Item => ({
  ...{ sighting, form: sighting, kind: 'script', state: 'active', place: 'head' },
  ...(part === undefined ? {} : { part }),
});
const composition = (...items: Item[]): Composition => ({ items, expected: [], missing: [] });
const NONE = { count: 0, example: '' };
const sides = (
  visitors: Composition,
  origin: Composition,
  more: Partial<ComparedSides> = {},
): ComparedSides => ({
  groups: [{ visitors: 1, origin: 2, pages: 12, example: '/fares' }],
  compositions: new Map([
    [1, visitors],
    [2, origin],
  ]),
  things: new Map([
    ['theme', { kind: 'script', name: 'theme.js', loads: ['/theme.js'] }],
    ['menu', { kind: 'script', name: 'openMenu', loads: [] }],
    ['menu, packed', { kind: 'script', name: 'openMenu', loads: [] }],
    ['banner', { kind: 'script', name: 'Bannerquay adverts', loads: ['https://bannerquay.example/b.js'] }],
  ]),
  ...{ policies: NONE, skeletons: NONE, onlyVisitors: NONE, onlyOrigin: NONE },
  ...more,
});

describe('what visitors get, beside what the site’s own server sends', () => {
  it('is the same but for what Pragmatica adds', () => {
    const report = compareSides(
      sides(
        composition(item('counter', 'counter/1'), item('pixel', 'pixel/2'), item('theme')),
        composition(item('theme')),
      ),
    );
    expect(report.ours).to.deep.equal([
      { snippet: 'counter', pages: 12 },
      { snippet: 'pixel', pages: 12 },
    ]);
    expect(report.differences).to.deep.equal([]);
    expect(report.lines).to.deep.equal([
      'Apart from what Pragmatica adds, visitors get what the site’s own server sends.',
    ]);
  });

  it('may have more, less, or the same in other words', () => {
    const { lines, differences } = compareSides(
      sides(composition(item('banner'), item('menu, packed')), composition(item('theme'), item('menu'))),
    );
    expect(differences.map(({ what, name }) => `${what} ${name}`)).to.have.members([
      'removed theme.js',
      'rewritten openMenu',
      'added Bannerquay adverts',
    ]);
    expect(lines).to.include(
      'Bannerquay adverts is added in transit, on 12 pages, such as /fares: neither the site nor Pragmatica puts it there.',
    );
    expect(lines).to.include('theme.js is lost in transit, on 12 pages, such as /fares.');
  });

  it('counts what stands there twice: one of two that is lost is lost', () => {
    const twice = compareSides(sides(composition(item('theme')), composition(item('theme'), item('theme'))));
    expect(twice.differences.map(({ what, name }) => `${what} ${name}`)).to.deep.equal(['removed theme.js']);
    const copy = compareSides(
      sides(composition(item('theme', 'ours/1'), item('theme')), composition(item('theme'))),
    );
    expect(copy.differences).to.deep.equal([]);
  });

  it('tells of policies, elements and pages, too', () => {
    const one = composition();
    const { lines } = compareSides(
      sides(one, one, {
        policies: { count: 1, example: '/pay' },
        skeletons: { count: 3, example: '/a' },
        onlyVisitors: { count: 1, example: '/old' },
        onlyOrigin: { count: 2, example: '/draft' },
      }),
    );
    expect(lines).to.deep.equal([
      'The content policy of the page /pay is changed in transit.',
      'Other elements arrive than were sent on 3 pages, such as /a.',
      'The page /old answers only at the address visitors use.',
      '2 pages, such as /draft, answer only at the site’s own server.',
    ]);
  });
});
