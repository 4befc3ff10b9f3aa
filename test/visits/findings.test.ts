import { expect } from 'chai';
import {
  coveredControls,
  disclosuresOf,
  doubledOf,
  overlapsOf,
  weightsOf,
  type LoadEvidence,
  type Rectangle,
} from '@pragmatica/core';
import { calls, element, opened, request, seenScript } from '../support/evidence.js';
import { part, set, snippet } from '../support/sets.js';

const code = (key: string): string => `<script>window.made_by_${key} = 1</script>`;
const snapshot = set(
  snippet('chat', { name: 'Chat', parts: [part('body-end', 0, code('chat'))] }),
  snippet('offer', { name: 'Offer', parts: [part('body-end', 1, code('offer'))] }),
  snippet('banner', {
    name: 'Cookies',
    parts: [
      part('body-end', 2, `${code('banner')}<script src="https://keel.example/cookie-consent.js"></script>`),
    ],
  }),
);
const scripts = ['chat', 'offer', 'banner'].map((key) =>
  seenScript(key, { source: `window.made_by_${key} = 1` }),
);
const by = (key: string, box: Rectangle, change = {}) =>
  element(`#${key}`, { box, stack: calls(key), ...change });
const box = (x: number, y: number, width = 200, height = 100): Rectangle => ({ x, y, width, height });

const findings = (change: Partial<LoadEvidence>) => opened(snapshot, { scripts, ...change });

describe('what meets on the screen', () => {
  it('is said with how much of it, and which corner is free', () => {
    const one = findings({ elements: [by('chat', box(1060, 680)), by('offer', box(1000, 650))] });
    const [found, ...others] = overlapsOf(one.load, one);
    expect(others).to.deep.equal([]);
    expect([found!.lower.name, found!.upper.name]).to.deep.equal(['Chat', 'Offer']);
    expect(found!.shared).to.deep.equal({ x: 1060, y: 680, width: 140, height: 70 });
    expect(found!.advice).to.equal('Move “Offer” to the bottom left: that corner is free.');
  });

  it('waits for the banner where that is one of the two', () => {
    const one = findings({ elements: [by('banner', box(0, 700, 1280, 100)), by('chat', box(1060, 680))] });
    expect(overlapsOf(one.load, one)[0]!.advice).to.equal(
      'Have “Chat” wait until the visitor has answered “Cookies”.',
    );
  });

  it('stays away from phones where there is no corner', () => {
    const phone = { window: { width: 390, height: 300 } };
    const one = findings({
      ...phone,
      elements: [by('chat', box(0, 0, 390, 200)), by('offer', box(100, 150, 280, 100))],
    });
    expect(overlapsOf(one.load, one)[0]!.advice).to.equal(
      'Switch “Offer” off on phones: no corner is free there.',
    );
  });

  it('is nothing between pieces of one thing, what is hidden, and what merely touches', () => {
    const pieces = [
      by('chat', box(0, 0)),
      element('#chat > button', { box: box(0, 0), stack: calls('chat') }),
      by('chat', box(50, 50), { selector: '#chat-window' }),
      by('offer', box(0, 0), { isVisible: false, hidden: 'display: none' }),
      by('offer', box(198, 0), { selector: '#edge' }),
      by('offer', box(0, 0), { selector: '#flow', position: 'static' }),
    ];
    const one = findings({ elements: pieces });
    expect(
      overlapsOf(one.load, one).map(({ lower, upper }) => [lower.selector, upper.selector]),
    ).to.deep.equal([['#chat-window', '#edge']]);
  });

  it('names who covers a control, but not what covers its own', () => {
    const control = { tag: '<a>', text: 'Book', box: box(0, 0), covered: 900, canBeClosed: false };
    const one = findings({
      elements: [by('offer', box(0, 0)), by('chat', box(600, 0))],
      covered: [
        { ...control, selector: 'a', coveredBy: '#offer' },
        { ...control, selector: '#chat > button', coveredBy: '#chat' },
        { ...control, selector: '#b', coveredBy: '#gone' },
      ],
    });
    expect(
      coveredControls(one.load, one).map(({ by: over, control: under }) => [over.name, under.name]),
    ).to.deep.equal([
      ['Offer', '“Book”'],
      ['#gone', '“Book”'],
    ]);
  });
});

describe('what happens twice', () => {
  const hit = (key: string, url: string, change = {}) =>
    request(url, { kind: 'image', status: 204, initiator: { by: 'script', stack: calls(key) }, ...change });

  it('is a report that says the same by two ways, whatever is random in it', () => {
    const one = findings({
      requests: [
        hit('chat', 'https://t.example/hit?a=7&r=0.123456789&t=1795909096020'),
        hit('offer', 'https://t.example/hit?a=7&r=0.987654321&t=1795909096999'),
      ],
    });
    expect(doubledOf(one.load, one)).to.deep.equal([
      {
        kind: 'report',
        url: 'https://t.example/hit?a=7&r=0.123456789&t=1795909096020',
        count: 2,
        sources: [
          { snippet: 'chat', name: 'Chat', via: [] },
          { snippet: 'offer', name: 'Offer', via: [] },
        ],
      },
    ]);
  });

  it('is nothing where one script says it again, for another account, or in vain', () => {
    const none = (...requests: LoadEvidence['requests']) => {
      const one = findings({ requests });
      expect(doubledOf(one.load, one)).to.deep.equal([]);
    };
    none(hit('chat', 'https://t.example/hit?a=7'), hit('chat', 'https://t.example/hit?a=7'));
    none(hit('chat', 'https://t.example/hit?a=7'), hit('offer', 'https://t.example/hit?a=8'));
    none(
      hit('chat', 'https://t.example/hit?a=7'),
      hit('offer', 'https://t.example/hit?a=7', { status: 404 }),
    );
    none(hit('chat', 'https://t.example/p.gif'), hit('offer', 'https://t.example/p.gif'));
  });

  it('is a file that ran twice, once for all that it then reports twice', () => {
    const file = (key: string) =>
      request('https://t.example/k.js', { initiator: { by: 'script', stack: calls(key) } });
    const runs = ['k1', 'k2'].map((id) => seenScript(id, { url: 'https://t.example/k.js' }));
    const one = findings({
      scripts: [...scripts, ...runs],
      requests: [
        file('chat'),
        file('offer'),
        hit('k1', 'https://t.example/hit?a=7'),
        hit('k2', 'https://t.example/hit?a=7'),
      ],
    });
    const found = doubledOf(one.load, one);
    expect(found.map(({ kind, count }) => [kind, count])).to.deep.equal([['file', 2]]);
    expect(found[0]!.sources.map(({ snippet: key }) => key)).to.deep.equal(['chat', 'offer']);
  });
});

describe('who keeps what and asks whom', () => {
  const write = (key: string, atMs: number, of: string) =>
    ({ where: 'cookie', key, atMs, stack: calls(of) }) as const;
  const ask = (url: string, of: string, startMs: number) =>
    request(url, { kind: 'image', startMs, initiator: { by: 'script', stack: calls(of) } });

  it('is told before the visitor’s answer and after it', () => {
    const one = findings({
      answer: { choice: 'refuse', atMs: 500 },
      writes: [write('early', 100, 'chat'), write('late', 600, 'offer')],
      requests: [ask('https://a.example/1', 'chat', 100), ask('https://a.example/2', 'chat', 700)],
    });
    const told = disclosuresOf(one.load, one).map(({ stage, disclosures }) => [
      stage,
      disclosures.map(({ snippet: key, stored, hosts }) => [
        key,
        stored.map((kept) => kept.key),
        hosts.length,
      ]),
    ]);
    expect(told).to.deep.equal([
      ['before', [['chat', ['early'], 1]]],
      [
        'refused',
        [
          ['offer', ['late'], 0],
          ['chat', [], 1],
        ],
      ],
    ]);
  });

  it('is of an earlier answer for the whole page load', () => {
    const one = findings({ answer: { choice: 'accept' }, writes: [write('k', 1, 'chat')] });
    expect(disclosuresOf(one.load, one).map(({ stage }) => stage)).to.deep.equal(['accepted']);
  });

  it('leaves out the site’s own hosts, and what was not let through', () => {
    const one = findings({
      requests: [
        ask('http://static.x.example/p.png', 'chat', 1),
        { ...ask('https://a.example/1', 'chat', 1), failure: 'policy' },
      ],
    });
    expect(disclosuresOf(one.load, one)).to.deep.equal([{ stage: 'before', disclosures: [] }]);
  });
});

describe('what each one costs', () => {
  it('is its requests, its bytes, and its share of long tasks', () => {
    const file = request('https://t.example/k.js', {
      bytes: 5_000,
      initiator: { by: 'script', stack: calls('chat') },
    });
    const one = findings({
      requests: [file, request('http://x.example/own.css', { bytes: 900, kind: 'document' })],
      longTasks: [
        {
          atMs: 1,
          durationMs: 250,
          scripts: [
            { url: file.url, durationMs: 150 },
            { url: 'https://nobody.example/', durationMs: 50 },
          ],
        },
      ],
    });
    expect(weightsOf(one.load, one)).to.deep.equal([
      { snippet: 'chat', name: 'Chat', requests: 1, bytes: 5_000, blockingMs: 150 },
      { snippet: null, name: '', requests: 1, bytes: 900, blockingMs: 0 },
      { snippet: undefined, name: '', requests: 0, bytes: 0, blockingMs: 50 },
    ]);
  });
});
