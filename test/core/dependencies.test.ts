import { exampleSet, orderReport, runChecks, type ExampleSnippet, type Verdict } from '@pragmatica/core';
import { expect } from 'chai';

const at = (name: string, code: string, more: Partial<ExampleSnippet> = {}): ExampleSnippet => ({
  name,
  parts: [{ placement: 'head-end', code }],
  ...more,
});

/** What one needs of the other, in page order of those that need: `then ← first (verdict)`. */
function pairs(...snippets: ExampleSnippet[]): string[] {
  return orderReport(exampleSet(snippets)).dependencies.map(
    ({ first, then, verdict }) => `${then.snippet.name} ← ${first.snippet.name} (${verdict})`,
  );
}

const MAKERS: Readonly<Record<string, string>> = {
  'a function': '<script>function pier() {}</script>',
  'a variable': '<script>var pier = function () {};</script>',
  'a constant': '<script>const pier = () => 1;</script>',
  'a class': '<script>class pier {}</script>',
  'a property of window': '<script>window.pier = function () {};</script>',
  'a property by its text': "<script>window['pier'] = function () {};</script>",
  self: '<script>self.pier = function () {};</script>',
  globalThis: '<script>globalThis.pier = function () {};</script>',
  'window passed in': '<script>(function (w) { w.pier = function () {}; })(window);</script>',
  'a destructuring': '<script>var { pier } = { pier: function () {} };</script>',
  'a queue that keeps what is there':
    '<script>window.pier = window.pier || function () { (pier.q = pier.q || []).push(arguments) };</script>',
};

describe('what parts need of each other', () => {
  for (const [how, code] of Object.entries(MAKERS))
    it(`is in order after ${how}, and not before`, () => {
      const user = at('User', '<script>pier();</script>');
      expect(pairs(at('Maker', code), user)).to.deep.equal(['User ← Maker (fine)']);
      expect(pairs(user, at('Maker', code))).to.deep.equal(['User ← Maker (wrong)']);
    });

  const USES: readonly [how: string, code: string, before: Verdict | undefined][] = [
    ['at its place', '<script>pier();</script>', 'wrong'],
    ['in a function that is called', '<script>function go() { pier(); } go();</script>', 'wrong'],
    ['in a deferred module', '<script type="module">pier();</script>', 'fine'],
    ['on a click', "<script>addEventListener('click', function () { pier(); });</script>", 'fine'],
    ['after a while', '<script>setTimeout(function () { pier(); }, 500);</script>', 'fine'],
    ['when something has come', "<script>fetch('/x').then(function () { pier(); });</script>", 'fine'],
    ['in an attribute', '<button onclick="pier()">Go</button>', 'fine'],
    ['after looking', "<script>if (typeof pier === 'function') pier();</script>", undefined],
    ['by window', '<script>window.pier && window.pier();</script>', undefined],
    ['by chaining', '<script>window.pier?.();</script>', undefined],
    ['in a try', '<script>try { pier(); } catch (e) {}</script>', undefined],
  ];
  for (const [how, code, before] of USES)
    it(`is told of a use ${how} before its maker: ${before ?? 'nothing'}`, () => {
      const maker = at('Maker', '<script>function pier() {}</script>');
      expect(pairs(at('User', code), maker)).to.deep.equal(before ? [`User ← Maker (${before})`] : []);
    });

  it('is a race where the maker comes over the network', () => {
    const maker = at(
      'Maker',
      "<script>var s = document.createElement('script'); s.onload = function () { window.pier = 1; }; s.src = 'https://a.example/a.js'; document.head.appendChild(s);</script>",
    );
    expect(pairs(maker, at('User', '<script>pier + 1;</script>'))).to.deep.equal(['User ← Maker (race)']);
    expect(pairs(at('User', '<script>pier + 1;</script>'), maker)).to.deep.equal(['User ← Maker (wrong)']);
  });

  it('is nothing between snippets that never meet on a page, or of which one is off', () => {
    const maker = at('Maker', '<script>function pier() {}</script>', { include: ['/a'] });
    const user = at('User', '<script>pier();</script>', { include: ['/b'] });
    expect(pairs(maker, user)).to.deep.equal([]);
    expect(pairs({ ...maker, state: 'off' }, { ...user, include: ['/a'] })).to.deep.equal([]);
  });

  it('is met by the first maker that is in order, whoever else makes it later', () => {
    const user = at('User', '<script>pier();</script>');
    const stub = at('Stub', '<script>window.pier = window.pier || function () {};</script>');
    const library = at('Library', '<script>function pier() {}</script>');
    expect(pairs(stub, user, library)).to.deep.equal(['User ← Stub (fine)']);
  });

  it('is not asked of others for what a part makes itself', () => {
    const both = '<script>function pier() {} pier();</script>';
    expect(pairs(at('Both', both), at('Other', '<script>function pier() {}</script>'))).to.deep.equal([]);
  });

  it('holds for elements that one writes and another looks for', () => {
    const box = at('Box', '<div id="pier"></div>', {});
    const text = at('Text', "<script>document.getElementById('pier').hidden = true;</script>");
    const inBody = (snippet: ExampleSnippet): ExampleSnippet => ({
      ...snippet,
      parts: snippet.parts.map((part) => ({ ...part, placement: 'body-end' })),
    });
    expect(pairs(inBody(box), inBody(text))).to.deep.equal(['Text ← Box (fine)']);
    expect(pairs(inBody(text), inBody(box))).to.deep.equal(['Text ← Box (wrong)']);
  });

  it('makes no finding of a pair that is in order', () => {
    const found = runChecks(
      exampleSet([
        at('Maker', '<script>function pier() {}</script>'),
        at('User', '<script>pier();</script>'),
      ]),
    );
    expect(found).to.deep.equal([]);
  });
});
