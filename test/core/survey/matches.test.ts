import {
  FactsCache,
  ManagedItems,
  coverageOf,
  describeSighting,
  planPage,
  readPage,
  standingOf,
  type Snapshot,
} from '@pragmatica/core';
import { expect } from 'chai';
import { load, part, set, snippet } from '../../support/sets.js';

const COUNTER = '<script async src="https://tallymast.example/count.js" data-account="TM-1887"></script>';
const PIXEL = `<script>
  window.glint = window.glint || function () { (glint.waiting = glint.waiting || []).push(arguments); };
  glint('account', 'GP-4417');
</script>
<script async src="https://glintpixel.example/glint.js"></script>`;

const memory = new FactsCache();
const managed = set(
  snippet('counter', { parts: [part('head-end', 0, COUNTER)] }),
  snippet('pixel', { parts: [part('head-end', 1, PIXEL)] }),
);

function items(html: string) {
  const bytes = new TextEncoder().encode(`<title>t</title><body>${html}<p>x</p>`);
  const source = {
    url: 'https://www.example.com/a',
    status: 200,
    bytes,
    headers: { 'content-type': 'text/html; charset=utf-8' },
  };
  return readPage(source, memory).items;
}

function matches(html: string, snapshot: Snapshot = managed) {
  const known = new ManagedItems(snapshot, 'live', memory);
  return items(html).map((item) => known.match(describeSighting(item, memory), [item.form]));
}

describe('a sighting is known to be what a snippet installs', () => {
  it('where it is the same code', () => {
    expect(matches(COUNTER)).to.deep.equal([{ snippet: 'counter', part: 'counter/1', kind: 'same' }]);
    expect(matches(PIXEL).map((match) => match?.kind)).to.deep.equal(['same', 'same']);
  });

  it('where it is written in another way', () => {
    const other = `<SCRIPT data-account='TM-1887' src='https://tallymast.example/count.js' async></SCRIPT>`;
    expect(matches(other)[0]?.kind).to.equal('reformatted');
  });

  it('where other code has the same account at the same provider', () => {
    const other = '<script src="https://cdn.tallymast.example/v2.js?account=TM-1887"></script>';
    expect(matches(other)[0]).to.deep.equal({
      ...{ snippet: 'counter', part: 'counter/1', kind: 'same-account' },
      code: COUNTER,
    });
  });

  it('where its type lets it not run: something starts it later', () => {
    const held = COUNTER.replace('async', 'async type="text/later"');
    expect(matches(held)[0]?.kind).to.equal('same-account');
  });

  it('where the account is another one, naming ours', () => {
    expect(matches(COUNTER.replace('TM-1887', 'TM-2000'))[0]).to.deep.equal({
      snippet: 'counter',
      part: 'counter/1',
      kind: 'other-account',
      account: 'TM-1887',
      code: COUNTER,
    });
    expect(matches(PIXEL.replace('GP-4417', 'GP-9'))[0]).to.include({
      kind: 'other-account',
      account: 'GP-4417',
    });
  });

  it('where the same file is loaded in another way', () => {
    const other = '<script defer crossorigin src="https://glintpixel.example/glint.js?v=2"></script>';
    expect(matches(other)[0]).to.include({ snippet: 'pixel', kind: 'same-loader' });
  });

  it('and nothing else is', () => {
    expect(matches('<script src="https://parlanook.example/chat.js"></script>')).to.deep.equal([undefined]);
  });

  it('by the snippet that is on, where one that is off installs the same', () => {
    const both = set(
      snippet('old-counter', { state: 'off', parts: [part('head-end', 0, COUNTER)] }),
      snippet('counter', { parts: [part('head-end', 1, COUNTER)] }),
    );
    expect(matches(COUNTER, both)[0]?.snippet).to.equal('counter');
  });
});

describe('what stands in a page is ours', () => {
  const plan = planPage(managed, load('/a'));
  const own = (html: string): (string | undefined)[] => {
    const bytes = new TextEncoder().encode(html);
    const source = { url: 'https://www.example.com/a', status: 200, bytes, headers: {} };
    return readPage(source, memory, plan.parts).items.map((item) => item.part);
  };

  it('where the plan puts it, with all its pieces', () => {
    expect(own(`<head><title>t</title>${COUNTER}${PIXEL}</head><p>x</p>`)).to.deep.equal([
      'counter/1',
      'pixel/1',
      'pixel/1',
    ]);
  });

  it('once: a copy that stood there before is none', () => {
    expect(own(`<head>${COUNTER}<title>t</title>${COUNTER}</head><p>x</p>`)).to.deep.equal([
      undefined,
      'counter/1',
    ]);
  });

  it('and the page’s skeleton is the page without it', () => {
    const bytes = new TextEncoder().encode(
      `<head><title>t</title>${COUNTER}${PIXEL}</head><p id="own">x</p>`,
    );
    const source = { url: 'https://www.example.com/a', status: 200, bytes, headers: {} };
    const without = readPage(source, memory, plan.parts).skeleton;
    expect(without).to.equal('<html><head><title></title></head><body><p id="own">x</p></body></html>');
    expect(readPage(source, memory).skeleton).to.include('<script>');
  });

  it('also in an encoding that says its characters in another way', () => {
    const sign = set(snippet('sign', { parts: [part('head-end', 0, '<script>say("渡し船")</script>')] }));
    const { parts } = planPage(sign, load('/a'));
    const bytes = new TextEncoder().encode('<head><script>say("\\u6e21\\u3057\\u8239")</script></head>');
    const found = (charset: string) => {
      const headers = { 'content-type': `text/html; charset=${charset}` };
      return readPage({ url: 'https://www.example.com/a', status: 200, bytes, headers }, memory, parts).found;
    };
    expect(found('windows-1252')[0]!.at).to.have.length(1);
    expect(found('utf-8')[0]!.at).to.have.length(0);
  });
});

describe('how a sighting stands to the snippets', () => {
  const match = (kind: 'same' | 'reformatted' | 'other-account') => ({ snippet: 's', part: 's/1', kind });
  for (const [pages, matched, standing] of [
    [{ ours: 3, others: 0, instead: 0, twice: 0 }, match('same'), 'ours'],
    [{ ours: 3, others: 1, instead: 0, twice: 0 }, match('same'), 'copy'],
    [{ ours: 0, others: 2, instead: 2, twice: 0 }, match('same'), 'copy'],
    [{ ours: 0, others: 2, instead: 2, twice: 0 }, match('reformatted'), 'altered'],
    [{ ours: 0, others: 2, instead: 0, twice: 0 }, match('reformatted'), 'copy'],
    [{ ours: 0, others: 2, instead: 0, twice: 0 }, match('other-account'), 'altered'],
    [{ ours: 0, others: 2, instead: 0, twice: 0 }, undefined, 'foreign'],
  ] as const)
    it(`${JSON.stringify(pages)}, ${matched?.kind ?? 'no match'}: ${standing}`, () => {
      expect(standingOf(pages, matched)).to.equal(standing);
    });
});

describe('coverage', () => {
  const groups = [
    { section: '/', type: 'front', pages: 1, examples: ['/'], expected: ['counter'], missing: [] },
    {
      section: '/news',
      type: 'article',
      pages: 20,
      examples: ['/news/a'],
      expected: ['counter', 'chat'],
      missing: [],
    },
    {
      section: '/contact',
      type: 'form',
      pages: 1,
      examples: ['/contact'],
      expected: ['counter'],
      missing: ['counter'],
    },
  ] as const;
  const coverage = coverageOf(groups, ['counter', 'chat', 'pixel']);

  it('says of each snippet on how many of its pages it is, and names those where it is not', () => {
    expect(coverage.snippets).to.deep.equal([
      { snippet: 'counter', expected: 22, present: 21, words: 'On 21 of 22 pages; missing on /contact.' },
      { snippet: 'chat', expected: 20, present: 20, words: 'On all 20 pages where it should be.' },
      { snippet: 'pixel', expected: 0, present: 0, words: 'On none of the pages seen.' },
    ]);
  });

  it('groups pages by section and type', () => {
    expect(coverage.rows.map(({ section, pages, cells }) => [section, pages, cells])).to.deep.equal([
      ['/', 1, { counter: { expected: 1, present: 1 } }],
      ['/contact', 1, { counter: { expected: 1, present: 0 } }],
      ['/news', 20, { counter: { expected: 20, present: 20 }, chat: { expected: 20, present: 20 } }],
    ]);
  });

  it('counts the pages that it does not name', () => {
    const missing = { section: '/b', type: 'other', expected: ['chat'], missing: ['chat'] } as const;
    const { snippets } = coverageOf(
      [{ ...missing, pages: 9, examples: ['/b/1', '/b/2', '/b/3', '/b/4'] }],
      ['chat'],
    );
    expect(snippets[0]!.words).to.equal('On 0 of 9 pages; missing on /b/1, /b/2, /b/3 and 6 more.');
  });
});
