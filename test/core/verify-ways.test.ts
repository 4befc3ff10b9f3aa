import { expect } from 'chai';
import {
  CARRIER_PART,
  checkLine,
  checkPasted,
  findLines,
  planPage,
  pageAddress,
  pasteBlocks,
  judgeBlocks,
  findBlocks,
  readPage,
  type Box,
  type ExpectedLine,
} from '@pragmatica/core';
import { part, set, snippet } from '../support/sets.js';

const NAME = 'skerrywick';
const PAGE = 'https://www.skerrywick.example/fares';
const LINE = '<script src="https://code.example/one/skerrywick.js"></script>';

const SET = set(
  snippet('counter', { parts: [part('head-end', 0, '<script>count()</script>')] }),
  snippet('chat', { parts: [part('body-end', 0, '<script>chat()</script>')] }),
  snippet('button', { parts: [part({ anchor: 'place', side: 'inside' }, 0, '<b>Book</b>')] }),
);
const page = (head: string, body = '<p id="place"></p>'): string =>
  `<!DOCTYPE html><html><head><title>t</title>${head}</head><body>${body}</body></html>`;
const load = {
  page: pageAddress('/fares'),
  device: 'desktop',
  consent: [],
  at: 0,
  environment: 'live',
} as const;

describe('the one line in a page', () => {
  const found = (html: string) => findLines(html, NAME, PAGE);

  it('is found where it runs, in whichever form', () => {
    expect(found(page(LINE))).to.deep.equal([
      {
        src: 'https://code.example/one/skerrywick.js',
        form: 'order',
        isInHead: true,
        digest: null,
        range: undefined,
      },
    ]);
    for (const attribute of ['async', 'defer', 'type="module"'])
      expect(found(page(LINE.replace('<script', `<script ${attribute}`)))[0]).to.include({ form: 'async' });
    expect(found(page('', LINE))[0]).to.include({ isInHead: false });
    expect(found(page('<script src="/x/skerrywick.js?v=2"></script>'))).to.have.length(1);
    const pinned = LINE.replace('skerrywick.js', 'skerrywick/0123456789abcdef0123.js');
    expect(found(page(pinned))[0]).to.include({ digest: '0123456789abcdef0123' });
  });

  it('is not what only looks like it', () => {
    for (const html of [
      `<!-- ${LINE} -->`,
      `<template>${LINE}</template>`,
      `<noscript>${LINE}</noscript>`,
      LINE.replace('skerrywick.js', 'skerrywick.staging.js'),
      LINE.replace('skerrywick.js', 'skerrywick/latest.js'),
      LINE.replace('src=', 'data-src='),
      '<script src="http://[broken/skerrywick.js"></script>',
      '<link rel="preload" as="script" href="https://code.example/one/skerrywick.js">',
    ])
      expect(found(page('', html)), html).to.deep.equal([]);
  });
});

describe('verification of what the one line brings', () => {
  const well: ExpectedLine['loaded'] = { problem: null, isCurrent: true };
  const states = (html: string, more: Partial<ExpectedLine> = {}): string => {
    const lines = findLines(html, NAME, PAGE);
    const expected = { form: 'order', release: 7, lines, loaded: lines[0] && well, ...more } as const;
    return checkLine(planPage(SET, load), new TextEncoder().encode(html), expected)
      .map(({ state }) => state)
      .join();
  };

  it('is well where the line stands in the head and loads the release', () => {
    expect(states(page(LINE))).to.equal('delivered,delivered,delivered');
  });

  it('tells what is missing with the line', () => {
    expect(states(page(''))).to.equal('missing,missing,missing');
    expect(states(page(LINE), { loaded: { problem: 'it answered 404', isCurrent: false } })).to.equal(
      'missing,missing,missing',
    );
    expect(states(page(LINE), { loaded: { problem: null, isCurrent: false } })).to.equal(
      'missing,missing,missing',
    );
  });

  it('tells what runs later than planned, and only of the form that has an order', () => {
    const late = LINE.replace('<script', '<script async');
    expect(states(page(late))).to.equal('wrong-place,delivered,delivered');
    expect(states(page(late), { form: 'async' })).to.equal('delivered,delivered,delivered');
    expect(states(page('', `${LINE}<p id="place"></p>`))).to.equal('wrong-place,delivered,delivered');
  });

  it('tells what runs twice, and what waits for its place', () => {
    expect(states(page(`${LINE}<script>count()</script>`))).to.equal('twice,delivered,delivered');
    expect(states(page(LINE + LINE))).to.equal('twice,twice,twice');
    expect(states(page(LINE, '<p>x</p>'))).to.equal('delivered,left-out,delivered');
  });
});

describe('verification of what is pasted', () => {
  const boxes: Box[] = [{ kind: 'site-head', name: 'Head code' }];
  const made = pasteBlocks(SET, { environment: 'live', boxes, release: 7, pages: ['/fares'], now: 0 });
  const states = (html: string): string => {
    const sights = judgeBlocks(SET.site.key, '/fares', made.blocks, boxes, 7, findBlocks(html));
    return checkPasted(planPage(SET, load), '/fares', made.blocks, made.left, sights, Buffer.from(html))
      .map(({ state }) => state)
      .join();
  };
  const { text } = made.blocks[0]!;

  it('holds what each box has against what it should have', () => {
    expect(states(page(text))).to.equal('delivered,delivered,delivered');
    expect(states(page(''))).to.equal('missing,missing,missing');
    expect(states(page(text.replace('count()', '')))).to.equal('missing,missing,missing');
    expect(states(page(text + text))).to.equal('twice,twice,twice');
  });

  it('tells what stands in the page beside the block', () => {
    expect(states(page(text, '<script>count()</script>'))).to.equal('twice,delivered,delivered');
  });

  it('misses what no box takes', () => {
    const none = pasteBlocks(SET, { environment: 'live', boxes: [], release: 7, pages: [], now: 0 });
    const [first] = checkPasted(planPage(SET, load), '/fares', none.blocks, none.left, [], Buffer.from(''));
    expect(first).to.include({ state: 'missing' });
    expect(first!.message).to.match(/there is no box for the head/);
  });
});

describe('a survey of pages that a line or a block fills', () => {
  const parts = planPage(SET, load).parts;
  const read = (html: string, delivery: 'gateway' | 'line' | 'paste') =>
    readPage(
      { url: PAGE, status: 200, bytes: new TextEncoder().encode(html), headers: {} },
      undefined,
      parts,
      { site: delivery === 'paste' ? SET.site.key : NAME, environment: 'live', delivery },
    );
  const whose = (html: string, delivery: 'gateway' | 'line' | 'paste') =>
    read(html, delivery)
      .items.filter(({ kind }) => kind === 'script')
      .map(({ part }) => part);

  it('takes the line for ours where the host gets its code by it, and misses nothing that it brings', () => {
    const html = page(LINE);
    expect(whose(html, 'line')).to.deep.equal([CARRIER_PART]);
    expect(read(html, 'line').found.every(({ isBrought }) => isBrought)).to.equal(true);
    expect(whose(html, 'gateway')).to.deep.equal([undefined]);
    expect(read(html, 'gateway').found.some(({ isBrought }) => isBrought)).to.equal(false);
    expect(read(page(''), 'line').found.some(({ isBrought }) => isBrought)).to.equal(false);
  });

  it('takes what stands in a pasted block for ours', () => {
    const boxes: Box[] = [{ kind: 'site-head', name: 'Head code' }];
    const { blocks } = pasteBlocks(SET, { environment: 'live', boxes, release: 7, pages: [], now: 0 });
    const html = page(`<script>theme()</script>${blocks[0]!.text}`);
    const [theme, ...others] = whose(html, 'paste');
    expect(theme).to.equal(undefined);
    expect(others).to.have.length(2);
    expect(others.map((one) => one !== undefined)).to.deep.equal([true, true]);
    // What does not stand as it is in a block is a stranger's where nobody pastes.
    expect(whose(html, 'gateway')).to.deep.equal([undefined, 'counter/1', undefined]);
  });
});
