import { expect } from 'chai';
import fc from 'fast-check';
import {
  heldAgainst,
  pageWeights,
  weighingVisits,
  type JudgedLoad,
  type LoadTotals,
  type PageWeight,
  type VisitToWeigh,
} from '@pragmatica/core';
import { piecesOf } from '../../packages/console/src/views/weight/stack.js';
import { set, snippet } from '../support/sets.js';
import { propertyRuns } from '../support/property-runs.js';

const NOTHING: LoadTotals = { requests: 0, bytes: 0, blockingMs: 0, shift: 0, readyMs: 0 };
const script = { device: 'phone', steps: [{ do: 'open', path: '/' }] } as const;

function visit(without: readonly string[], totals: Partial<LoadTotals>, path = '/'): VisitToWeigh {
  const load = {
    snippets: ['chat', 'count'].map((key) => ({
      snippet: key,
      name: key.toUpperCase(),
      expected: without.includes(key) ? 'left-out' : 'runs',
    })),
    totals: { ...NOTHING, ...totals },
  };
  return { path, script, without, failure: null, judged: [load as unknown as JudgedLoad] };
}

const all = ['chat', 'count'];
const kb = (bytes: number) => ({ bytes: bytes * 1_000 });

describe('weighing pages', () => {
  it('visits with all, without any and without each that runs there, as somebody who agreed and stays', () => {
    const snippets = [
      snippet('chat', { limits: { visitor: { afterSeconds: 3 } } }),
      snippet('count'),
      snippet('fares', { pages: { include: ['/fares'], exclude: [] } }),
      snippet('idle', { state: 'off' }),
    ];
    const choice = { host: 'a.example', environment: 'live', device: 'phone', now: 0 } as const;
    const visits = weighingVisits(set(...snippets), { ...choice, path: '/' });
    const every = ['chat', 'count', 'fares', 'idle'];
    expect(visits.map(({ without }) => without)).to.deep.equal([[], every, ['chat'], ['count'], [], every]);
    expect(new Set(visits.map((one) => JSON.stringify(one.script)))).to.have.length(1);
    expect(visits[0]!.script).to.deep.include({ device: 'phone', hasAgreed: true });
    expect(visits[0]!.script.steps).to.deep.equal([
      { do: 'open', path: '/' },
      { do: 'wait', seconds: 3 },
    ]);
    // With one snippet, the page without it is the page without any.
    const single = weighingVisits(set(snippet('count')), { ...choice, path: '/' });
    expect(single.map(({ without }) => without)).to.deep.equal([[], ['count'], [], ['count']]);
  });

  it('tells what each adds, the heaviest first, and the page by itself', () => {
    const { pages, failed } = pageWeights([
      visit([], { ...kb(100), requests: 12, readyMs: 900 }),
      visit(all, { ...kb(40), requests: 4, readyMs: 300 }),
      visit(['chat'], { ...kb(50), requests: 6, readyMs: 400 }),
      visit(['count'], { ...kb(90), requests: 10, readyMs: 800 }),
    ]);
    expect(failed).to.deep.equal([]);
    const [page] = pages as [PageWeight];
    expect(page.bare.bytes).to.equal(40_000);
    expect(page.adds).to.deep.equal({ ...NOTHING, bytes: 60_000, requests: 8, readyMs: 600 });
    expect(page.snippets.map(({ name, adds }) => [name, adds.bytes, adds.requests])).to.deep.equal([
      ['CHAT', 50_000, 6],
      ['COUNT', 10_000, 2],
    ]);
  });

  it('takes for nothing what two equal visits differ by', () => {
    const { pages } = pageWeights([
      visit([], { ...kb(100), blockingMs: 80 }),
      visit(all, { ...kb(40), blockingMs: 10 }),
      visit(['chat'], { ...kb(60), blockingMs: 70 }),
      visit(['count'], { ...kb(99), blockingMs: 75 }),
      visit([], { ...kb(102), blockingMs: 120 }),
      visit(all, { ...kb(40), blockingMs: 10 }),
    ]);
    const [chat, count] = pages[0]!.snippets;
    expect(chat!.adds).to.include({ bytes: 41_000, blockingMs: 0 });
    expect(count!.adds).to.include({ bytes: 0, blockingMs: 0 });
    expect(pages[0]!.adds).to.include({ bytes: 61_000, blockingMs: 90 });
  });

  it('is of use with one snippet alone, and for pages apart', () => {
    const one = (path: string, without: string[], bytes: number): VisitToWeigh => {
      const { judged, ...rest } = visit(without, kb(bytes), path);
      return { ...rest, judged: judged.map((load) => ({ ...load, snippets: load.snippets.slice(0, 1) })) };
    };
    const { pages } = pageWeights([
      one('/', [], 30),
      one('/', ['chat'], 10),
      one('/b', [], 90),
      one('/b', ['chat'], 10),
    ]);
    expect(
      pages.map(({ path, snippets }) => [path, snippets[0]!.snippet, snippets[0]!.adds.bytes]),
    ).to.deep.equal([
      ['/', 'chat', 20_000],
      ['/b', 'chat', 80_000],
    ]);
  });

  it('says of which pages it knows nothing, because a visit came to no end', () => {
    const broken = { ...visit(all, kb(40)), failure: 'timeout' as const };
    expect(pageWeights([visit([], kb(100)), broken])).to.deep.equal({
      pages: [],
      failed: [{ path: '/', device: 'phone' }],
    });
    // One of two is enough.
    expect(pageWeights([visit([], kb(100)), broken, visit(all, kb(40))]).pages[0]!.adds.bytes).to.equal(
      60_000,
    );
    // One that left a snippet out says nothing of it, and the page is weighed all the same.
    const lost = { ...visit(['chat'], kb(50)), failure: 'crashed' as const };
    const { pages } = pageWeights([visit([], kb(100)), visit(all, kb(40)), lost, visit(['count'], kb(90))]);
    expect(pages[0]!.snippets.map(({ snippet: key }) => key)).to.deep.equal(['count']);
  });

  it('is held against the budget, and names whom to begin with', () => {
    const [page] = pageWeights([
      visit([], kb(100)),
      visit(all, kb(40)),
      visit(['chat'], kb(50)),
      visit(['count'], kb(90)),
    ]).pages as [PageWeight];
    expect(heldAgainst(page, null)).to.deep.include({
      isWithin: undefined,
      sentence: 'Your snippets add 60 kB to /.',
      advice: '',
    });
    expect(heldAgainst(page, 60)).to.deep.include({
      isWithin: true,
      sentence: 'Your snippets add 60 kB to /, within the budget of 60 kB.',
      advice: '',
    });
    expect(heldAgainst(page, 45)).to.deep.include({
      isWithin: false,
      sentence: 'Your snippets add 60 kB to /: 15 kB more than the budget of 45 kB.',
      advice: '“CHAT” alone is 50 kB. Switch it off there, or run it on fewer pages.',
    });
    const even = {
      ...page,
      snippets: page.snippets.map((one) => ({ ...one, adds: { ...NOTHING, bytes: 9_000 } })),
    };
    expect(heldAgainst(even, 45).advice).to.match(/^No single snippet is to blame/);
  });

  it('is told apart from what several snippets share, and from a page with too many to leave out each', () => {
    const [shared] = pageWeights([
      visit([], kb(100)),
      visit(all, kb(40)),
      visit(['chat'], kb(80)),
      visit(['count'], kb(90)),
    ]).pages;
    expect(shared).to.include({ sharedBytes: 30_000, running: 2 });
    const [whole] = pageWeights([visit([], kb(100)), visit(all, kb(40))]).pages;
    expect(whole).to.deep.include({ sharedBytes: 0, running: 2, snippets: [] });
    expect(whole!.adds.bytes).to.equal(60_000);
    const many = Array.from({ length: 31 }, (_, index) => snippet(`s${index}`));
    const choice = { host: 'a.example', environment: 'live', device: 'phone', now: 0, path: '/' } as const;
    expect(weighingVisits(set(...many), choice)).to.have.length(4);
  });

  it('is drawn as long as the page is, whatever the snippets share', () => {
    const bytes = fc.nat(900_000);
    fc.assert(
      fc.property(bytes, bytes, bytes, bytes, (bare, added, chat, count) => {
        const full = bare + added;
        const [page] = pageWeights([
          visit([], { bytes: full }),
          visit(all, { bytes: bare }),
          visit(['chat'], { bytes: Math.max(0, full - chat) }),
          visit(['count'], { bytes: Math.max(0, full - count) }),
        ]).pages as [PageWeight];
        const figures = (one: LoadTotals) => ({ ...one, readyMs: one.readyMs ?? null });
        const pieces = piecesOf({
          ...heldAgainst(page, null),
          ...{ bare: figures(page.bare), full: figures(page.full), adds: figures(page.adds), isWithin: null },
          snippets: page.snippets.map((one) => ({ ...one, adds: figures(one.adds) })),
        });
        const length = pieces.reduce((sum, piece) => sum + piece.bytes, 0);
        // What is left over is drawn where it is more than a sliver.
        expect(length).to.be.within(bare + added * 0.96 - 1, full + 1);
        for (const piece of pieces) expect(piece.bytes).to.be.at.least(0);
      }),
      propertyRuns(500),
    );
  });
});
