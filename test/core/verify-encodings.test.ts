import { checkDelivery, insert, planPage } from '@pragmatica/core';
import { expect } from 'chai';
import { load, part, set, snippet } from '../support/sets.js';

const GREETING = '<script>say("Grüße, приве́т, 渡し船")</script>';
const BANNER = '<p class="banner" title="Größe">Fähre – 30 %</p>';

/** What is delivered is found again in every encoding, where characters were said in another way. */
describe('checking what was delivered in', () => {
  const plan = planPage(
    set(
      snippet('greeting', { parts: [part('head-end', 0, GREETING)] }),
      snippet('banner', { parts: [part('body-start', 0, BANNER)] }),
      snippet('item', { parts: [part({ anchor: 'second', side: 'before' }, 0, '<script>item()</script>')] }),
    ),
    load('/'),
  );
  const html = '<title>t</title><ul><li>1<li id=second>2</ul>';
  const states = (page: Uint8Array, encoding: string | undefined): string[] =>
    checkDelivery(plan, page, { encoding }).map((delivery) => delivery.state);

  for (const encoding of ['utf-8', 'iso-8859-1', 'shift_jis', 'gb18030', 'koi8-r', undefined]) {
    const page = Buffer.from(html);

    it(`${encoding ?? 'an unknown encoding'}: each part where it belongs, though tags were written before it`, () => {
      const { page: delivered, outcomes } = insert(page, plan.parts, { encoding });
      expect(outcomes.every((outcome) => outcome.inserted)).to.equal(true);
      expect(states(delivered, encoding)).to.deep.equal(['delivered', 'delivered', 'delivered']);
    });

    it(`${encoding ?? 'an unknown encoding'}: what is missing, twice or elsewhere`, () => {
      expect(states(page, encoding)).to.deep.equal(['missing', 'missing', 'missing']);
      const delivered = Buffer.from(insert(page, plan.parts, { encoding }).page);
      const twice = Buffer.concat([delivered, Buffer.from('<script>item()</script>')]);
      expect(states(twice, encoding)[2]).to.equal('twice');
      const moved = Buffer.from(
        delivered.toString('latin1').replace('<script>item()</script>', '') + '<script>item()</script>',
        'latin1',
      );
      expect(states(moved, encoding)[2]).to.equal('wrong-place');
    });
  }

  it('UTF-16', () => {
    const page = Buffer.from(`\ufeff${html}`, 'utf16le');
    const { page: delivered } = insert(page, plan.parts);
    expect(states(delivered, undefined)).to.deep.equal(['delivered', 'delivered', 'delivered']);
    expect(states(page, undefined)).to.deep.equal(['missing', 'missing', 'missing']);
  });

  it('a page whose charset had to stay in reach: the part right after it is where it belongs', () => {
    const early = planPage(
      set(snippet('first', { parts: [part('head-start', 0, `<script>${'x'.repeat(900)}</script>`)] })),
      load('/'),
    );
    const page = Buffer.from(
      `<head><meta name=x content="${'y'.repeat(200)}"><meta charset=utf-8><title>t</title></head>`,
    );
    const { page: delivered, outcomes } = insert(page, early.parts);
    expect(outcomes[0]).to.include({ note: 'after-charset' });
    expect(checkDelivery(early, delivered).map((delivery) => delivery.state)).to.deep.equal(['delivered']);
  });
});
