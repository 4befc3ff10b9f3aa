import { expect } from 'chai';
import { checkDelivery, insert, planPage } from '@pragmatica/core';
import { part, set, snippet } from '../support/sets.js';

const PAGE = '<!doctype html><html><head><title>t</title></head><body><p id=box>x</p></body></html>';
const CODE = '<script src="http://provider.test/a.js"></script>';
const plan = planPage(
  set(
    snippet('a', { parts: [part('head-end', 0, CODE)] }),
    snippet('b', { parts: [part('body-end', 0, '<script>b</script>')] }),
    snippet('c', { parts: [part({ anchor: 'nowhere', side: 'inside' }, 0, '<i>c</i>')] }),
  ),
  '/',
);

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
    const bodyStart = planPage(set(snippet('a', { parts: [part('body-start', 0, CODE)] })), '/');
    const page = insert('<title>t</title><p>x', bodyStart.parts).page;
    expect(checkDelivery(bodyStart, page).map((entry) => entry.state)).to.deep.equal(['delivered']);
  });
});
