import { expect } from 'chai';
import {
  checkDelivery,
  insert,
  isDeliveryFault,
  planPage,
  summarizeDelivery,
  type DeliveryState,
  type PartDelivery,
} from '@pragmatica/core';
import { load, part, set, snippet } from '../support/sets.js';

const PAGE = '<!doctype html><html><head><title>t</title></head><body><p id=box>x</p></body></html>';
const CODE = '<script src="http://provider.test/a.js"></script>';
const plan = planPage(
  set(
    snippet('a', { parts: [part('head-end', 0, CODE)] }),
    snippet('b', { parts: [part('body-end', 0, '<script>b</script>')] }),
    snippet('c', { parts: [part({ anchor: 'nowhere', side: 'inside' }, 0, '<i>c</i>')] }),
  ),
  load('/'),
);

describe('the sum of a verification', () => {
  const found = (snippet: string, part: number, state: DeliveryState): PartDelivery => ({
    part: `${snippet}/${part}`,
    snippet,
    name: snippet.toUpperCase(),
    state,
    message: `${state}!`,
  });

  it('counts a snippet on each page as its worst part, and names the pages of each problem', () => {
    const sum = summarizeDelivery([
      {
        path: '/1',
        parts: [found('a', 1, 'delivered'), found('a', 2, 'missing'), found('b', 1, 'delivered')],
      },
      { path: '/2', parts: [found('a', 1, 'delivered'), found('a', 2, 'delivered')] },
      { path: '/3', parts: [found('a', 1, 'missing'), found('a', 2, 'missing')] },
    ]);
    expect(sum).to.deep.equal([
      {
        snippet: 'a',
        name: 'A',
        pages: [
          { state: 'delivered', count: 1 },
          { state: 'missing', count: 2 },
        ],
        problems: [{ message: 'missing!', paths: ['/1', '/3'] }],
      },
      { snippet: 'b', name: 'B', pages: [{ state: 'delivered', count: 1 }], problems: [] },
    ]);
  });
});

describe('checking what was delivered', () => {
  const states = (page: string): Record<string, string> =>
    Object.fromEntries(
      checkDelivery(plan, new TextEncoder().encode(page)).map((entry) => [entry.snippet, entry.state]),
    );
  const delivered = new TextDecoder().decode(insert(PAGE, plan.parts).page);

  it('finds each part where insertion puts it, and says which found no place', () => {
    expect(states(delivered)).to.deep.equal({ a: 'delivered', b: 'delivered', c: 'left-out' });
  });

  it('finds what is missing', () => {
    expect(states(PAGE)).to.deep.equal({ a: 'missing', b: 'missing', c: 'left-out' });
  });

  it('finds what stands there twice, whoever put it there', () => {
    expect(states(delivered.replace('<p', `${CODE}<p`))).to.include({ a: 'twice', b: 'delivered' });
  });

  it('finds what stands in the wrong place', () => {
    expect(states(PAGE.replace('<p', `<script>b</script>${CODE}<p`))).to.include({
      a: 'wrong-place',
      b: 'wrong-place',
    });
  });

  describe('says what it found', () => {
    const say = (page: string, ...snippets: ReturnType<typeof snippet>[]): [DeliveryState, string][] =>
      checkDelivery(planPage(set(...snippets), load('/')), new TextEncoder().encode(page)).map(
        ({ state, message }) => [state, message],
      );
    const put = (page: string, ...snippets: ReturnType<typeof snippet>[]): string =>
      new TextDecoder().decode(insert(page, planPage(set(...snippets), load('/')).parts).page);
    const a = snippet('a', { parts: [part('head-end', 0, CODE)] });

    it('in words', () => {
      expect(say(put(PAGE, a), a)).to.deep.equal([['delivered', 'It is at the end of the head.']]);
      expect(say(PAGE, a)[0]![1]).to.match(/^Its code is not in the page, so visitors do not get it\. /);
      expect(say(put(PAGE, a).replace('<p', `${CODE}${CODE}<p`), a)[0]![1]).to.match(
        /^Its code is in this page 3 times, so it runs 3 times\. /,
      );
      expect(say(PAGE.replace('<p', `${CODE}<p`), a)).to.deep.equal([
        ['wrong-place', 'It should be at the end of the head, but it was found at byte 56 of the page.'],
      ]);
      const nowhere = snippet('c', { parts: [part({ anchor: 'nowhere', side: 'inside' }, 0, '<i>c</i>')] });
      expect(say(PAGE.replace('</body>', '<i>c</i></body>'), nowhere)).to.deep.equal([
        ['wrong-place', 'The page does not have this element. Even so, it was found at byte 71 of the page.'],
      ]);
    });

    it('where tags that insertion writes, and no others, stand before it', () => {
      for (const [between, state] of [
        ['<head>', 'delivered'],
        ['<body>', 'delivered'],
        ['</p>', 'delivered'],
        ['</h1>', 'delivered'],
        ['</head>', 'wrong-place'],
        ['</body>', 'wrong-place'],
        ['</html>', 'wrong-place'],
        ['<p>', 'wrong-place'],
        ['</p>x', 'wrong-place'],
        ['x', 'wrong-place'],
      ] as const)
        expect(say(PAGE.replace('</head>', `${between}${CODE}</head>`), a)[0]![0], between).to.equal(state);
      expect(say(PAGE.replace('<title>', `${CODE}<title>`), a)[0]![0], 'too early').to.equal('wrong-place');
    });

    it('of codes that stand within each other: each its own', () => {
      const short = snippet('s', { parts: [part('body-end', 0, '<b>x</b>')] });
      for (const code of ['<b>x</b><b>y</b>', '<b>y</b><b>x</b>', '<i></i><b>x</b><i></i>']) {
        const long = snippet('l', { parts: [part('body-end', 1, code)] });
        const page = put(PAGE, short, long);
        expect(
          say(page, short, long).map(([state]) => state),
          code,
        ).to.deep.equal(['delivered', 'delivered']);
        expect(
          say(put(PAGE, long), short, long).map(([state]) => state),
          code,
        ).to.deep.equal(['missing', 'delivered']);
      }
    });

    it('of codes at the end, one after the other, and of none', () => {
      const last = snippet('e', { parts: [part('body-end', 0, '<i>e</i>')] });
      expect(say(put('<p>x', last), last)[0]![0]).to.equal('delivered');
      expect(say('<p>x<i>e</i', last)[0]![0], 'cut off').to.equal('missing');
      const twice = snippet('x', { parts: [part('body-end', 0, 'aa')] });
      expect(say('<body>aaaa</body>', twice)[0]![1]).to.include('twice');
      expect(say(PAGE, snippet('n', { parts: [part('body-end', 0, '')] }))[0]![0]).to.equal('missing');
    });
  });

  it('tells faults of the delivery from what it could not do', () => {
    const states: DeliveryState[] = ['delivered', 'left-out', 'twice', 'wrong-place', 'missing'];
    expect(states.filter(isDeliveryFault)).to.deep.equal(['twice', 'wrong-place', 'missing']);
  });

  it('accepts the body tag that insertion writes where the page only implies it', () => {
    const bodyStart = planPage(set(snippet('a', { parts: [part('body-start', 0, CODE)] })), load('/'));
    const page = insert('<title>t</title><p>x', bodyStart.parts).page;
    expect(checkDelivery(bodyStart, page).map((entry) => entry.state)).to.deep.equal(['delivered']);
  });
});
