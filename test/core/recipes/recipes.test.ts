import { expect } from 'chai';
import {
  RecipeBook,
  checklist,
  exampleRecipe,
  matchPieces,
  readCode,
  recipeProblems,
  recipeUses,
  recogniseRecipe,
  type Recipe,
} from '@pragmatica/core';
import { part, set, snippet } from '../../support/sets.js';

const NOTHING = { hosts: [], addresses: [], globals: [] };
const recognised = (key: string, recognise: Partial<Recipe['recognise']>): Recipe =>
  exampleRecipe(key, key, { recognise: { ...NOTHING, ...recognise } });

describe('recipes', () => {
  describe('are recognised in code', () => {
    const recipes = [
      recognised('by-name', { globals: ['gauge'] }),
      recognised('by-host', { hosts: ['*.tidegauge.example'] }),
      recognised('by-address', { addresses: ['https://cdn.tidegauge.example/v2/*.js'] }),
    ];
    const keyOf = (code: string): string | undefined => recogniseRecipe(readCode(code), recipes)?.key;
    const cases: readonly (readonly [what: string, code: string, key: string | undefined])[] = [
      [
        'by an address before a host',
        '<script src="https://cdn.tidegauge.example/v2/g.js"></script>',
        'by-address',
      ],
      [
        'by a host before a name',
        '<script src="https://a.tidegauge.example/g.js"></script><script>gauge=1</script>',
        'by-host',
      ],
      ['by a name', '<script>window.gauge = [];</script>', 'by-name'],
      ['without a protocol', '<script src="//cdn.tidegauge.example/v2/g.js"></script>', 'by-address'],
      [
        'by what a script loads',
        "<script>var s=document.createElement('script');s.src='https://b.tidegauge.example/g.js';document.head.append(s)</script>",
        'by-host',
      ],
      ['but not by the domain above', '<script src="https://tidegauge.example/g.js"></script>', undefined],
      ['nor by a name that it only uses', '<script>gauge.push(1)</script>', undefined],
      ['nor anything that is not there', '<p>gauge</p>', undefined],
    ];
    for (const [what, code, key] of cases) it(what, () => expect(keyOf(code)).to.equal(key));
  });

  describe('know their pieces', () => {
    const recipe = exampleRecipe('chat', 'Chat', {
      parts: [
        {
          key: 'settings',
          placement: 'head-end',
          required: true,
          code: '<script>window.talk = { room: "@{room}" };</script>',
        },
        {
          key: 'loader',
          placement: 'body-end',
          required: true,
          code: '<script src="https://talk.example/@{room}/t.js?v=1"></script>',
        },
        {
          key: 'frame',
          placement: 'body-start',
          required: false,
          code: '<noscript><img src="https://talk.example/dot.gif"></noscript>',
        },
      ],
    });
    const match = (...codes: string[]) =>
      matchPieces(
        recipe,
        codes.map((code) => ({ code })),
        { room: 'quay' },
      );
    it('written just so, with the site’s fields', () => {
      expect(
        match(
          '<script src="https://talk.example/@{quay}/t.js?v=1"></script>',
          '<script>window.talk = { room: "@{quay}" };</script>',
        ),
      ).to.deep.equal([1, 0, undefined]);
    });
    it('changed by hand', () => {
      expect(
        match(
          '<script>window.talk = { room: "x", colour: "red" };</script>',
          '<p>Ask</p>',
          '<script async src="https://talk.example/x/t.js?v=2"></script>',
        ),
      ).to.deep.equal([0, 2, undefined]);
    });
    it('but not one for browsers without scripts for one with', () => {
      expect(match('<img src="https://talk.example/dot.gif">')).to.deep.equal([
        undefined,
        undefined,
        undefined,
      ]);
    });
  });

  it('have one newest version each, and keep the others', () => {
    const first = exampleRecipe('chat', 'Chat', {});
    const book = new RecipeBook([
      { ...first, version: 3 },
      first,
      { ...first, version: 2 },
      exampleRecipe('a', 'A', {}),
    ]);
    expect(book.newest.map(({ key, version }) => [key, version])).to.deep.equal([
      ['a', 1],
      ['chat', 3],
    ]);
    expect(book.versions('chat').map(({ version }) => version)).to.deep.equal([3, 2, 1]);
    expect(book.followed({ key: 'chat', version: 2, fields: {} })?.version).to.equal(2);
    expect(book.version('chat', 4)).to.equal(undefined);
  });

  it('are used where they are followed, and where code looks like them; what is in the archive does not count', () => {
    const book = new RecipeBook([recognised('gauge', { hosts: ['tidegauge.example'] })]);
    const code = '<script src="https://tidegauge.example/g.js"></script>';
    const draft = set(
      snippet('seen', { parts: [part('head-end', 0, code)] }),
      snippet('followed', { recipe: { key: 'gauge', version: 1, fields: {} } }),
      snippet('archived', { state: 'archived', parts: [part('head-end', 1, code)] }),
      snippet('off', { state: 'off', parts: [part('head-end', 2, code)] }),
      snippet('other'),
    );
    expect(
      recipeUses(draft, book).map((use) => [use.recipe.key, use.snippets.map(({ key }) => key)]),
    ).to.deep.equal([['gauge', ['seen', 'followed', 'off']]]);
  });

  describe('have a checklist', () => {
    const recipe = exampleRecipe('chat', 'Chat', {
      steps: [
        { key: 'domain', per: 'host', title: 'Register {host}', open: '{host} is not registered' },
        { key: 'live', per: 'host', environment: 'live', title: 'List {host}', open: '{host} is not listed' },
        { key: 'hours', per: 'site', title: 'Set the hours', open: 'no hours are set' },
        {
          key: 'test',
          per: 'site',
          environment: 'staging',
          title: 'Make a test room',
          open: 'there is none',
        },
      ],
    });
    const uses = [{ recipe, snippets: [snippet('talk', { name: 'Talk' })] }];
    const hosts = [
      { host: 'www.example.com', environment: 'live' as const },
      { host: 'staging.example.com', environment: 'staging' as const },
    ];
    it('with one line for each host or for the site', () => {
      expect(
        checklist(uses, hosts, []).map(({ title, open, host }) => `${title} | ${open} | ${host}`),
      ).to.deep.equal([
        'Register www.example.com | www.example.com is not registered | www.example.com',
        'Register staging.example.com | staging.example.com is not registered | staging.example.com',
        'List www.example.com | www.example.com is not listed | www.example.com',
        'Set the hours | no hours are set | ',
        'Make a test room | there is none | ',
      ]);
      expect(checklist(uses, [hosts[0]!], []).map(({ step }) => step.key)).to.deep.equal([
        'domain',
        'live',
        'hours',
      ]);
    });
    it('with who did what', () => {
      const tick = {
        recipe: 'chat',
        step: 'domain',
        host: 'www.example.com',
        by: 'ann',
        at: '2027-03-01T10:00:00.000Z',
      };
      const elsewhere = { ...tick, recipe: 'other', host: 'staging.example.com' };
      expect(checklist(uses, hosts, [tick, elsewhere]).map((item) => item.tick?.by)).to.deep.equal([
        'ann',
        undefined,
        undefined,
        undefined,
        undefined,
      ]);
    });
  });

  describe('are refused', () => {
    const good = exampleRecipe('chat', 'Chat', {
      parts: [
        {
          key: 'a',
          placement: 'head-end',
          required: true,
          code: '<script src="https://a.example/@{id}.js"></script>',
        },
      ],
      fields: [{ name: 'id', type: 'id', label: 'Id', example: 'A-0' }],
    });
    const problems = (change: Partial<Recipe>): string[] =>
      recipeProblems({ ...good, ...change }).map(({ path, message }) => `/${path.join('/')} ${message}`);
    it('not when they are sound', () => expect(problems({})).to.deep.equal([]));
    const code = (text: string): Partial<Recipe> => ({ parts: [{ ...good.parts[0]!, code: text }] });
    const cases: readonly (readonly [string, Partial<Recipe>, RegExp])[] = [
      [
        'with a field that they do not ask for',
        code('<meta name="@{id}" content="@{name}">'),
        /^\/parts\/0\/code @{name} is not among/,
      ],
      [
        'with a field that nothing uses',
        code('<script src="https://a.example/a.js"></script>'),
        /^\/fields\/0\/name No part uses @{id}/,
      ],
      [
        'with a field where nothing is safe',
        code('<script src="https://a.example/a.js"></script><!-- @{id} -->'),
        /^\/parts\/0\/code @{id} is not possible there. It is in a comment/,
      ],
      [
        'with code that would change the page',
        code('<div title="@{id}">'),
        /^\/parts\/0\/code .*(closed|head)/,
      ],
      [
        'with an example that is none',
        { fields: [{ ...good.fields[0]!, example: 'two words' }] },
        /^\/fields\/0\/example Use only/,
      ],
      [
        'with two pieces of one name',
        { parts: [good.parts[0]!, good.parts[0]!] },
        /^\/parts\/1\/key “a” is listed twice/,
      ],
      [
        'with an address pattern that is none',
        { recognise: { ...NOTHING, addresses: ['https://[/x'] } },
        /^\/recognise\/addresses\/0 This is not an address pattern/,
      ],
      [
        'with a regular expression in one',
        { recognise: { ...NOTHING, addresses: ['https://a.example/((?:a+)+)b'] } },
        /^\/recognise\/addresses\/0 This is not an address pattern/,
      ],
      ['when they come before themselves', { after: ['chat'] }, /^\/after\/0 It cannot come before itself/],
      [
        'with a step for each host that names none',
        { steps: [{ key: 's', per: 'host', title: 'Do it', open: 'not done' }] },
        /^\/steps\/0\/open Say which host/,
      ],
      [
        'with a host in a step for the site',
        { steps: [{ key: 's', per: 'site', title: 'Do {host}', open: 'not done' }] },
        /^\/steps\/0\/per It names a {host}/,
      ],
    ];
    for (const [what, change, expected] of cases)
      it(what, () => {
        const found = problems(change);
        expect(found).to.have.length(1);
        expect(found[0]).to.match(expected);
      });
  });
});
