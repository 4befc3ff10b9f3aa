import { expect } from 'chai';
import {
  RecipeBook,
  applyFix,
  exampleRecipe,
  exampleSet,
  runChecks,
  type ExampleSnippet,
  type Finding,
  type Knowledge,
  type Recipe,
} from '@pragmatica/core';

const script = (name: string, address: string, more: Partial<ExampleSnippet> = {}): ExampleSnippet => ({
  name,
  parts: [{ placement: 'head-end', code: `<script async src="${address}"></script>` }],
  ...more,
});
const found = (
  check: string,
  recipes: readonly Recipe[],
  snippets: readonly ExampleSnippet[],
  more: Knowledge = {},
): Finding[] =>
  runChecks(exampleSet(snippets), { book: new RecipeBook(recipes), ...more }).filter(
    (finding) => finding.check === check,
  );
const titles = (findings: readonly Finding[]): string[] => findings.map(({ title }) => title);

describe('checks of recipes', () => {
  const question = exampleRecipe('question', 'Question', {
    recognise: { hosts: ['ask.example'], addresses: [], globals: [] },
  });
  const pixel = exampleRecipe('pixel', 'Pixel', { after: ['question'] });
  const PIXEL = script('Pixel', 'https://pixel.example/p.js', { recipe: 'pixel' });

  describe('what must come first', () => {
    const need = (...snippets: ExampleSnippet[]): string[] =>
      titles(found('recipe-need', [question, pixel], snippets));
    it('is not on the site', () => {
      expect(need(PIXEL)).to.deep.equal(['“Pixel” needs “Question”, which this site does not have']);
    });
    it('is switched off', () => {
      expect(need(script('Ask', 'https://ask.example/a.js', { state: 'off' }), PIXEL)).to.deep.equal([
        '“Pixel” needs “Ask”, which is switched off',
      ]);
    });
    it('does not run on every page load', () => {
      const ask = script('Ask', 'https://ask.example/a.js', { limits: { devices: ['desktop'] } });
      expect(need(ask, PIXEL)).to.deep.equal(['“Pixel” needs “Ask”, which does not run on /, on a tablet']);
    });
    it('is there once where it is needed', () => {
      const ask = script('Ask', 'https://ask.example/a.js', { limits: { devices: ['desktop'] } });
      const all: ExampleSnippet = {
        name: 'Ask all',
        parts: [{ placement: 'head-start', code: '<script src="https://ask.example/all.js"></script>' }],
      };
      expect(need(all, ask, PIXEL)).to.deep.equal([]);
    });
    it('comes later, which one move fixes', () => {
      const late: ExampleSnippet = {
        name: 'Ask',
        parts: [{ placement: 'body-end', code: '<script src="https://ask.example/a.js"></script>' }],
      };
      const early: ExampleSnippet = {
        name: 'Pixel',
        recipe: 'pixel',
        parts: [{ placement: 'head-end', code: '<script src="https://pixel.example/p.js"></script>' }],
      };
      const book = new RecipeBook([question, pixel]);
      const set = exampleSet([early, late]);
      const [finding] = runChecks(set, { book }).filter(({ check }) => check === 'recipe-need');
      expect(finding!.title).to.equal('“Pixel” needs “Ask”, which comes later');
      const fixed = applyFix(set, finding!.fix!);
      expect(runChecks(fixed, { book }).map(({ check }) => check)).not.to.include('recipe-need');
    });
  });

  describe('a missing piece', () => {
    const LOADER = '<script async src="https://crate.example/c.js?id=CR-1"></script>';
    const FRAME = '<noscript><iframe src="https://crate.example/n.html?id=CR-1"></iframe></noscript>';
    const container = exampleRecipe('crate', 'Crate', {
      recognise: { hosts: ['crate.example'], addresses: [], globals: [] },
      parts: [
        { key: 'loader', placement: 'head-start', required: true, code: LOADER },
        { key: 'frame', placement: 'body-start', required: true, code: FRAME },
        { key: 'extra', placement: 'body-end', required: false, code: '<i id="crate-extra"></i>' },
      ],
    });
    const one = (
      name: string,
      code: string,
      placement: 'head-start' | 'body-start',
      more = {},
    ): ExampleSnippet => ({
      name,
      parts: [{ placement, code }],
      ...more,
    });
    const missing = (...snippets: ExampleSnippet[]): Finding[] =>
      found('missing-piece', [container], snippets);
    it('is told of an install by hand, too, whichever piece it is', () => {
      expect(titles(missing(one('Crate', LOADER, 'head-start')))).to.deep.equal([
        '“Crate” is missing its piece at the start of the body',
      ]);
      expect(titles(missing(one('Crate', FRAME, 'body-start')))).to.deep.equal([
        '“Crate” is missing its piece at the start of the head',
      ]);
    });
    it('is not missing where it was pasted as another snippet on the same pages', () => {
      expect(missing(one('A', LOADER, 'head-start'), one('B', FRAME, 'body-start'))).to.deep.equal([]);
      const elsewhere = missing(
        one('A', LOADER, 'head-start', { include: ['/fares'] }),
        one('B', FRAME, 'body-start', { include: ['/news'] }),
      );
      expect(elsewhere).to.have.length(2);
    });
    it('is put back by its fix, in the site’s own fields', () => {
      const withField: Recipe = {
        ...container,
        fields: [{ name: 'id', type: 'id', label: 'Id' }],
        parts: container.parts.map((piece) => ({ ...piece, code: piece.code.replace('CR-1', '@{id}') })),
      };
      const [snippet] = exampleSet([one('Crate', LOADER, 'head-start')]).snippets;
      const base = exampleSet([]);
      const set = {
        ...base,
        site: {
          ...base.site,
          fields: [{ name: 'crate_id', type: 'id' as const, label: 'Id', value: 'CR-9' }],
        },
        snippets: [{ ...snippet!, recipe: { key: 'crate', version: 1, fields: { id: 'crate_id' } } }],
      };
      const book = new RecipeBook([withField]);
      const [finding] = runChecks(set, { book }).filter(({ check }) => check === 'missing-piece');
      const fixed = applyFix(set, finding!.fix!);
      expect(fixed.snippets[0]!.parts.map(({ code }) => code)).to.deep.equal([
        LOADER,
        FRAME.replace('CR-1', '@{crate_id}'),
      ]);
      expect(runChecks(fixed, { book }).map(({ check }) => check)).not.to.include('missing-piece');
    });
    it('is told once, not again as half of a two-piece install', () => {
      const checks = runChecks(exampleSet([one('Crate', FRAME, 'body-start')]), {
        book: new RecipeBook([container]),
      });
      expect(checks.map(({ check }) => check)).not.to.include('second-piece');
    });
  });

  it('tell each open step of each host, until it is ticked', () => {
    const chat = exampleRecipe('chat', 'Chat', {
      steps: [
        { key: 'domain', per: 'host', title: 'Register {host}', open: '{host} is not registered with Chat' },
      ],
    });
    const hosts = [
      { host: 'www.example.com', environment: 'live' as const },
      { host: 'staging.example.com', environment: 'staging' as const },
    ];
    const TALK = script('Talk', 'https://chat.example/c.js', { recipe: 'chat' });
    const open = (ticks: Knowledge['ticks'], ...snippets: ExampleSnippet[]): string[] =>
      titles(found('open-step', [chat], snippets, { hosts, ticks: ticks ?? [] }));
    expect(open([], TALK)).to.deep.equal([
      '“Talk”: www.example.com is not registered with Chat',
      '“Talk”: staging.example.com is not registered with Chat',
    ]);
    const tick = {
      recipe: 'chat',
      step: 'domain',
      host: 'www.example.com',
      by: 'ann',
      at: '2027-03-01T10:00:00Z',
    };
    expect(open([tick], TALK)).to.deep.equal(['“Talk”: staging.example.com is not registered with Chat']);
    expect(open([], { ...TALK, state: 'off' })).to.deep.equal([]);
  });

  it('say what to use instead of what is retired', () => {
    const next = exampleRecipe('new', 'New counter', {});
    const old = exampleRecipe('old', 'Old counter', {
      recognise: { hosts: ['old.example'], addresses: [], globals: [] },
      retired: { reason: 'It ends in May', replacedBy: 'new' },
    });
    const [finding] = found('recipe-retired', [next, old], [script('Counter', 'https://old.example/c.js')]);
    expect(finding!.advice).to.equal(
      'It ends in May. Apply the recipe “New counter” instead, and switch this one off.',
    );
  });

  it('tell two installs once, however many checks could', () => {
    const once = exampleRecipe('count', 'Counter', {
      recognise: { hosts: ['count.example'], addresses: [], globals: [] },
    });
    const two = [
      script('One', 'https://count.example/c.js?id=TM-1001'),
      script('Two', 'https://count.example/c.js?id=TM-2002'),
    ];
    const of = (recipes: readonly Recipe[], snippets: readonly ExampleSnippet[]): string[] =>
      runChecks(exampleSet(snippets), { book: new RecipeBook(recipes) }).map(({ check }) => check);
    expect(of([once], two)).to.deep.equal(['recipe-twice']);
    expect(of([{ ...once, repeatable: true }], two)).to.deep.equal(['two-accounts']);
    const same = [two[0]!, { ...two[0]!, name: 'Again' }];
    expect(of([once], same)).to.deep.equal(['same-code']);
    const apart = [two[0]!, { ...two[1]!, limits: { environment: 'staging' as const } }];
    expect(of([once], [{ ...apart[0]!, limits: { environment: 'live' } }, apart[1]!])).to.deep.equal([]);
  });

  it('tell floating boxes of one corner where both run, by code and by recipe', () => {
    const chat = exampleRecipe('chat', 'Chat', {
      recognise: { hosts: ['chat.example'], addresses: [], globals: [] },
      floats: 'bottom right',
    });
    const box: ExampleSnippet = {
      name: 'Offer',
      parts: [
        {
          placement: 'body-end',
          code: '<style>#offer{position:fixed;right:0;bottom:0}</style><div id="offer">Hello</div>',
        },
      ],
    };
    const talk = (more: Partial<ExampleSnippet> = {}) => script('Talk', 'https://chat.example/c.js', more);
    const corner = (...snippets: ExampleSnippet[]): Finding[] => found('same-corner', [chat], snippets);
    const [finding] = corner(talk(), box);
    expect(finding!.title).to.equal('“Offer” and “Talk” both float at the bottom right');
    expect(finding!.advice).to.match(/^Both run on \/, for example\./);
    expect(
      corner(talk({ limits: { visitor: { minWidth: 700 } } }), {
        ...box,
        limits: { visitor: { maxWidth: 699 } },
      }),
    ).to.deep.equal([]);
    expect(
      corner(talk({ limits: { devices: ['phone'] } }), { ...box, limits: { devices: ['desktop'] } }),
    ).to.deep.equal([]);
  });
});
