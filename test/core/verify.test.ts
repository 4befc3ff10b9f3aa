import { expect } from 'chai';
import {
  checkDelivery,
  insert,
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

  it('accepts the body tag that insertion writes where the page only implies it', () => {
    const bodyStart = planPage(set(snippet('a', { parts: [part('body-start', 0, CODE)] })), load('/'));
    const page = insert('<title>t</title><p>x', bodyStart.parts).page;
    expect(checkDelivery(bodyStart, page).map((entry) => entry.state)).to.deep.equal(['delivered']);
  });
});
