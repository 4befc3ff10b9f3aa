import { expect } from 'chai';
import {
  containmentProblem,
  distinctSkeletons,
  exampleSet,
  onPage,
  pageSkeleton,
  runChecks,
  uncontainedParts,
  type Placement,
} from '@pragmatica/core';
import { part, set, snippet } from '../support/sets.js';

const CONTAINED: readonly [Placement, string][] = [
  ['head-start', '<!-- a --><script>document.write("</body>")</script><noscript><img src=x></noscript>'],
  ['head-end', '<meta name=x><link rel=preload href=x as=script><style>p{}</style>\n<script>1</script>\n'],
  ['body-end', '<div><p>text<p>more</div><script>1</script>'],
  ['body-start', 'just text'],
  ['body-end', ''],
  [{ anchor: 'x', side: 'inside' }, '<form><input></form>'],
];

const UNCONTAINED: readonly [Placement, string, string][] = [
  ['head-start', '<div>visible</div>', 'ends-head'],
  ['head-end', 'text', 'ends-head'],
  ['body-end', '<script>alert(1)', 'swallows-page'],
  ['body-end', '<!-- not closed', 'swallows-page'],
  ['body-start', '<a href="x', 'swallows-page'],
  ['body-end', '</div></section></main>', 'changes-page'],
  ['body-end', '<div>', 'changes-page'],
  ['body-end', '<p>one</p></div>', 'changes-page'],
  ['body-start', '<span>one</span></span>', 'changes-page'],
  ['body-start', '<b>bold', 'changes-page'],
  ['body-end', '<body class="mine">', 'changes-page'],
  ['head-end', '<script>1</script></head>', 'changes-page'],
];

describe('containment', () => {
  for (const [placement, code] of CONTAINED) {
    it(`lets ${JSON.stringify(code)} stand at ${JSON.stringify(placement)}`, () =>
      expect(containmentProblem(code, placement)).to.equal(undefined));
  }

  for (const [placement, code, problem] of UNCONTAINED) {
    it(`finds that ${JSON.stringify(code)} at ${JSON.stringify(placement)} ${problem}`, () => {
      const found = containmentProblem(code, placement);
      expect(found?.problem).to.equal(problem);
      expect(found?.message).to.match(/browser|page/);
      expect(found?.culprit === undefined).to.equal(code.includes('<body'));
    });
  }

  it('looks only at snippets that are on', () => {
    const broken = { parts: [part('body-end'), part('body-end', 1, '<div>')] };
    const found = uncontainedParts(set(snippet('a', broken), snippet('b', { ...broken, state: 'off' })));
    expect(found.map((entry) => entry.part)).to.deep.equal(['a/2']);
  });

  describe('names what does it, and where', () => {
    const CULPRITS: readonly [Placement, string, string, string][] = [
      ['head-end', '<meta name="a"><div>x</div>', 'ends-head', '<div>'],
      ['head-end', '<script>1</script>hello', 'ends-head', 'hello'],
      ['head-start', '<noscript><p>x</p></noscript><p id="a">y</p>', 'ends-head', '<p id="a">'],
      ['body-end', '<p>one</p></div><p>two</p></section>', 'stray-end', '</div>'],
      ['body-end', '<div class="a"><b>x</b>', 'unclosed', '<div class="a">'],
      ['body-end', '<p>x</p><!-- never', 'unclosed', '<!-- never'],
      ['body-end', '<div><textarea rows="2">text</div>', 'unclosed', '<div>'],
      ['body-end', '<style>p { }', 'unclosed', '<style>'],
    ];
    for (const [placement, code, kind, text] of CULPRITS)
      it(`in ${code}`, () => {
        const { culprit } = containmentProblem(code, placement)!;
        const { start, end } = culprit!.range;
        expect([culprit!.kind, code.slice(start, end)]).to.deep.equal([kind, text]);
      });
  });

  describe('on the site’s own pages', () => {
    const page = (body: string) =>
      pageSkeleton('/', `<!DOCTYPE html><html><head><title>t</title></head><body>${body}</body></html>`);
    const inside = { anchor: 'here', side: 'inside' } as const;

    it('fits where it may stand', () =>
      expect(
        onPage(page('<main><div id="here">text</div></main>'), '<form><input></form>', inside).kind,
      ).to.equal('fits'));

    it('is left out where there is no place, with the reason', () => {
      const found = onPage(page('<main></main>'), '<p>x</p>', inside);
      expect(found.kind).to.equal('left-out');
      expect(found.kind === 'left-out' && found.message).to.include('not have this element');
    });

    it('changes pages on which it stands in something that it may not stand in', () => {
      const form = onPage(
        page('<form id="search"><div id="here"></div><input></form>'),
        '<form><input></form>',
        inside,
      );
      expect(form.kind).to.not.equal('fits');
      const link = onPage(page('<a id="a"><span id="here">x</span>y</a>'), '<a>more</a>', inside);
      expect(link.kind).to.not.equal('fits');
    });

    it('is told as a finding only for pages in reach, naming the page', () => {
      const skeletons = [
        { ...page('<form><div id="here"></div><input></form>'), path: '/search' },
        { ...page('<div id="here"></div>'), path: '/contact' },
      ];
      const found = (exclude: string[]) =>
        runChecks(
          exampleSet([
            { name: 'Letter', exclude, parts: [{ placement: inside, code: '<form><input></form>' }] },
          ]),
          { skeletons, paths: ['/search', '/contact'] },
        ).map(({ title }) => title);
      expect(found([])).to.have.length(1);
      expect(found([])[0]).to.include('/search');
      expect(found(['/search'])).to.deep.equal([]);
    });
  });

  describe('a skeleton', () => {
    const html =
      '<!doctype html><title>Fares</title><link rel=x><body class="a"><ul><li>one<li>two<li>three</ul><p>text <b>bold</b></p><!-- note --><script>1</script>';

    it('holds elements and ids, each run of like neighbours once, and no texts', () =>
      expect(pageSkeleton('/', html).html).to.equal(
        '<!DOCTYPE html><html><head><title></title><link></head><body><ul><li>x</li></ul><p>x<b>x</b></p><script></script></body></html>',
      ));

    it('is its own skeleton', () => {
      const once = pageSkeleton('/', html).html;
      expect(pageSkeleton('/', once).html).to.equal(once);
    });

    it('is kept once for pages that are made alike', () => {
      const other = html.replace('Fares', 'News').replace('<li>three', '');
      const all = [pageSkeleton('/a', html), pageSkeleton('/b', other), pageSkeleton('/c', '<p id="x">')];
      expect(distinctSkeletons(all).map(({ path }) => path)).to.deep.equal(['/a', '/c']);
    });
  });

  it('tells what is pushed out of the head, by name', () => {
    const head = (name: string, code: string) => ({
      name,
      parts: [{ placement: 'head-end' as const, code }],
    });
    const [found] = runChecks(
      exampleSet([
        head('Before', '<meta name="a" content="1">'),
        head('Notice', '<div>Works</div>'),
        head('Counter', '<script async src="https://tallymast.example/c.js"></script>'),
        head('Colours', '<style>p { color: navy }</style>'),
      ]),
    );
    expect(found!.title).to.equal('“Notice” ends the head early with <div>');
    expect(found!.advice).to.include('It also pushes “Counter” and “Colours” out of the head');
    expect(found!.evidence[0]!.text).to.equal('<div>Works</div>');
  });
});
