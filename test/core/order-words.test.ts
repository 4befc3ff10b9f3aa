import {
  allowedPlacements,
  dependencyWords,
  exampleSet,
  findDependencies,
  moveTitle,
  moveWords,
  orderReport,
  readCode,
  type Dependency,
  type ExampleSnippet,
  type Move,
  type OrderPart,
  type Placement,
} from '@pragmatica/core';
import { expect } from 'chai';
import { part, snippet } from '../support/sets.js';

const placed = (code: string, placement: Placement = 'head-end', name = 'User'): OrderPart => ({
  key: `${name.toLowerCase()}/1`,
  snippet: snippet(name.toLowerCase(), { name, parts: [part(placement, 0, code)] }),
  part: part(placement, 0, code),
  facts: readCode(code),
  position: 0,
});

describe('where a part could stand as well', () => {
  const EVERYWHERE = ['head-start', 'head-end', 'body-start', 'body-end'];
  for (const [what, code, placement, allowed] of [
    ['a script that needs nothing', '<script>var a = 1;</script>', 'head-end', EVERYWHERE],
    ['the same in the body', '<script>var a = 1;</script>', 'body-end', EVERYWHERE],
    ['what is inside an element', '<script>var a = 1;</script>', { anchor: 'x', side: 'inside' }, []],
    [
      'what writes into the page as it is read',
      '<script>document.write("x")</script>',
      'body-end',
      ['body-end'],
    ],
    ['content in the body', '<p>x</p>', 'body-end', ['body-start', 'body-end']],
    ['content in the head', '<p>x</p>', 'head-end', ['head-end']],
    ['a frame', '<iframe src="https://a.example/"></iframe>', 'body-start', ['body-start', 'body-end']],
    ['text', 'Hello', 'body-end', ['body-start', 'body-end']],
    ['a fallback without scripts', '<noscript><p>x</p></noscript>', 'body-start', ['body-start', 'body-end']],
    ['a meta tag', '<meta name="a" content="b">', 'head-end', ['head-start', 'head-end']],
    ['a meta tag in the body', '<meta name="a" content="b">', 'body-end', ['body-end']],
    ['a style sheet', '<link rel="stylesheet" href="/a.css">', 'head-start', ['head-start', 'head-end']],
    [
      'what looks for an element at once',
      '<script>document.getElementById("x").remove();</script>',
      'head-end',
      ['head-end', 'body-end'],
    ],
    [
      'the same at the end',
      '<script>document.getElementById("x").remove();</script>',
      'body-end',
      ['body-end'],
    ],
    [
      'what looks for one with a guard',
      '<script>var x = document.getElementById("x"); if (x) x.remove();</script>',
      'head-end',
      EVERYWHERE,
    ],
    [
      'what looks for one later',
      '<script>addEventListener("load", function () { document.getElementById("x").remove(); });</script>',
      'head-end',
      EVERYWHERE,
    ],
  ] as const)
    it(`of ${what}`, () => expect(allowedPlacements(placed(code, placement))).to.deep.equal(allowed));
});

describe('why the order matters, in words', () => {
  const at = (name: string, code: string, more: Partial<ExampleSnippet> = {}): ExampleSnippet => ({
    name,
    parts: [{ placement: 'head-end', code }],
    ...more,
  });
  const words = (...snippets: ExampleSnippet[]): string[] =>
    orderReport(exampleSet(snippets)).dependencies.map(dependencyWords);

  it('of names, elements and what people stated', () => {
    expect(
      words(at('Maker', '<script>function pier() {}</script>'), at('User', '<script>pier();</script>')),
    ).to.deep.equal(['“User” uses “pier”, which “Maker” defines']);
    const box: ExampleSnippet = {
      name: 'Box',
      parts: [{ placement: 'body-start', code: '<div id="box"></div>' }],
    };
    const seeker: ExampleSnippet = {
      name: 'Seeker',
      parts: [{ placement: 'body-end', code: '<script>document.getElementById("box").remove();</script>' }],
    };
    expect(words(box, seeker)).to.deep.equal(['“Seeker” looks for #box, which “Box” adds']);
  });

  it('of the other reasons', () => {
    const [first, then] = [placed('', 'head-end', 'First'), placed('', 'head-end', 'Then')];
    const because = (reason: object): string =>
      dependencyWords({ first, then, reason } as unknown as Dependency);
    expect(because({ kind: 'settings', name: 'conf' })).to.equal(
      'the script of “Then” reads “conf”, which “First” sets',
    );
    expect(because({ kind: 'stated' })).to.equal('a note says that “Then” needs “First”');
    expect(because({ kind: 'recipe' })).to.equal('the recipe of “Then” wants “First” first');
  });

  it('and what a move does about it', () => {
    const [first, then] = [placed('', 'head-end', 'First'), placed('', 'head-end', 'Then')];
    const because = { first, then, reason: { kind: 'stated' } } as unknown as Dependency;
    const move = (change: object): Move =>
      ({
        part: then,
        placement: 'head-end',
        next: { side: 'after', part: first },
        because,
        ...change,
      }) as unknown as Move;
    expect(moveTitle(move({}))).to.equal('Move “Then” right below “First”');
    expect(moveTitle(move({ next: { side: 'before', part: first } }))).to.equal(
      'Move “Then” right above “First”',
    );
    expect(moveTitle(move({ placement: 'body-end' }))).to.equal(
      'Move “Then” to the end of the body, right below “First”',
    );
    expect(moveWords(move({}))).to.equal(
      'Move “Then” right below “First”: a note says that “Then” needs “First”.',
    );
  });

  it('of nothing where nothing meets', () => {
    const running = [
      placed('<script>function pier() {}</script>', 'head-end', 'M'),
      placed('<script>pier()</script>'),
    ];
    expect(findDependencies({ running, meeting: () => undefined })).to.deep.equal([]);
    expect(findDependencies({ running, meeting: () => '/' })).to.have.length(1);
  });
});
