import {
  RecipeBook,
  exampleRecipe,
  exampleSet,
  orderReport,
  placementKey,
  type ExampleSnippet,
  type Knowledge,
  type Placement,
} from '@pragmatica/core';
import { expect } from 'chai';
import { CORPUS } from '../corpus/corpus.js';

type More = Partial<ExampleSnippet> & { readonly placement?: Placement; readonly statement?: string };

const at = (
  name: string,
  code: string,
  { placement = 'head-end', statement, ...more }: More = {},
): ExampleSnippet => ({
  name,
  parts: [{ placement, code, ...(statement === undefined ? {} : { statement }) }],
  ...more,
});

/** What needs what, as `User ← Maker: name pier parse, wrong`. */
function needs(set: readonly ExampleSnippet[], known: Knowledge = {}): string[] {
  return orderReport(exampleSet(set), known).dependencies.map(
    ({ first, then, reason, verdict, isByOrder }) => {
      const what =
        reason.kind === 'name'
          ? ` ${reason.name} ${reason.use.when}`
          : reason.kind === 'element'
            ? ` ${reason.id}`
            : reason.kind === 'settings'
              ? ` ${reason.name}`
              : '';
      const key = first.key.endsWith('/1') ? first.snippet.name : first.key;
      return `${then.snippet.name} ← ${key}: ${reason.kind}${what}, ${verdict}${isByOrder ? '' : ' whatever the order'}`;
    },
  );
}

/** What is moved where, as `User → head-end after Maker`, and what stays wrong. */
function moves(set: readonly ExampleSnippet[]): string[] {
  const { moves: made, left, cycles } = orderReport(exampleSet(set)).right;
  return [
    ...made.map(
      ({ part, placement, next }) =>
        `${part.snippet.name} → ${placementKey(placement)} ${next.side} ${next.part.snippet.name}`,
    ),
    ...left.map(({ first, then }) => `left: ${then.snippet.name} ← ${first.snippet.name}`),
    ...cycles.map(
      (cycle) =>
        `circle: ${cycle
          .map(({ snippet }) => snippet.name)
          .sort()
          .join(' ')}`,
    ),
  ];
}

const MAKER = at('Maker', '<script>function pier() {}</script>');
const USER = at('User', '<script>pier();</script>');
const CLICK = "addEventListener('click', function () { pier(); });";
const LOADER = '<script src="https://landing.example/l.js"></script>';
const MENU = 'https://easewheel.example/menu.js';
const CONTAINER = CORPUS.find(({ name }) => name === 'container with its queue, minified')!.code;
const SETTINGS = at('Settings', `<script>window.easewheel = { corner: 'bottom left' };</script>`);

describe('which need counts', () => {
  for (const code of [`${CLICK} pier();`, `pier(); ${CLICK}`])
    it(`is the earliest of several uses of a name: ${code}`, () => {
      const user = at('User', `<script>${code}</script>`);
      expect(needs([user, MAKER])).to.deep.equal(['User ← Maker: name pier parse, wrong']);
    });

  it('is none where a script before it in the same part may bring the name', () => {
    const use = '<script>pier();</script>';
    expect(needs([at('User', LOADER + use), MAKER])).to.deep.equal([]);
    expect(needs([at('User', use + LOADER), MAKER])).to.have.length(1);
    const style = '<link rel="stylesheet" href="https://landing.example/l.css">';
    expect(needs([at('User', style + use), MAKER])).to.have.length(1);
  });

  it('is none of what a part makes itself', () => {
    const own = at('User', '<script>function pier() {} pier();</script>');
    expect(needs([own, MAKER])).to.deep.equal([]);
  });

  it('is of the maker that is in order, where one is', () => {
    const second = { ...MAKER, name: 'Second' };
    expect(needs([MAKER, USER, second])).to.deep.equal(['User ← Maker: name pier parse, fine']);
    expect(needs([second, USER, MAKER])).to.deep.equal(['User ← Second: name pier parse, fine']);
  });

  it('is otherwise of the maker that can be put in order', () => {
    const module = at('Module', '<script type="module">window.pier = function () {};</script>');
    expect(needs([module, USER])).to.deep.equal(['User ← Module: name pier parse, wrong whatever the order']);
    expect(needs([module, USER, MAKER])).to.deep.equal(['User ← Maker: name pier parse, wrong']);
  });

  it('is none of elements that a script makes: whether it does is not known', () => {
    const seeker = at('Seeker', "<script>document.getElementById('offer').hidden = true;</script>", {
      placement: 'body-end',
    });
    const made =
      "<script>var d = document.createElement('div'); d.id = 'offer'; document.body.append(d);</script>";
    const inBody = { placement: 'body-end' } as const;
    expect(needs([seeker, at('Box', '<div id="offer"></div>', inBody)])).to.deep.equal([
      'Seeker ← Box: element offer, wrong',
    ]);
    expect(needs([seeker, at('Script', made, inBody)])).to.deep.equal([]);
  });

  const MODES: readonly [mode: string, before: string, after: string][] = [
    ['', 'fine', 'wrong'],
    [' async', 'fine', 'race'],
    [' defer', 'fine', 'fine'],
    [' type="module"', 'fine', 'fine'],
  ];
  for (const [mode, before, after] of MODES)
    it(`of settings is ${before} before and ${after} after a script${mode}`, () => {
      const menu = at('Menu', `<script${mode} src="${MENU}"></script>`);
      const found = (verdict: string, list: string[]): unknown =>
        expect(list.map((line) => line.replace(/ whatever.*/, ''))).to.deep.equal([
          `Menu ← Settings: settings easewheel, ${verdict}`,
        ]);
      found(before, needs([SETTINGS, menu]));
      found(after, needs([menu, SETTINGS]));
    });

  it('is none of settings that stand with a script of their own', () => {
    const menu = at('Menu', `<script src="${MENU}"></script>`);
    const both = at(
      'Both',
      `<script>window.easewheel = { corner: 'top' };</script><script src="${MENU}?2"></script>`,
    );
    expect(needs([menu, both]).filter((line) => line.startsWith('Menu'))).to.deep.equal([]);
  });

  it('goes to the piece that runs, not to the one for browsers without scripts', () => {
    const ask: ExampleSnippet = {
      name: 'Ask',
      parts: [
        {
          placement: 'head-start',
          code: '<noscript><link rel="stylesheet" href="https://ask.example/a.css"></noscript>',
        },
        { placement: 'head-end', code: '<script src="https://ask.example/a.js"></script>' },
      ],
    };
    const pixel = at('Pixel', '<script src="https://glint.example/p.js"></script>', {
      placement: 'body-end',
      needs: ['ask'],
    });
    expect(needs([ask, pixel])).to.deep.equal(['Pixel ← ask/2: stated, fine']);
    const scriptless = { ...ask, parts: ask.parts.slice(0, 1) };
    expect(needs([scriptless, pixel])).to.deep.equal([]);
    const twice = { ...pixel, parts: [...pixel.parts, { placement: 'body-end' as const, code: '<i></i>' }] };
    expect(needs([ask, twice])).to.deep.equal(['Pixel ← ask/2: stated, fine']);
  });

  it('is said once where both a person and the recipe say it', () => {
    const hosts = (host: string) => ({ recognise: { hosts: [host], addresses: [], globals: [] } });
    const book = new RecipeBook([
      exampleRecipe('ask', 'Ask', hosts('ask.example')),
      exampleRecipe('pixel', 'Pixel', { ...hosts('glint.example'), after: ['ask'] }),
    ]);
    const ask = at('Ask', '<script src="https://ask.example/a.js"></script>');
    const pixel = at('Pixel', '<script src="https://glint.example/p.js"></script>');
    expect(needs([ask, pixel], { book })).to.deep.equal(['Pixel ← Ask: recipe, fine']);
    expect(needs([ask, { ...pixel, needs: ['ask'] }], { book })).to.deep.equal(['Pixel ← Ask: stated, fine']);
  });

  it('is of something later where that waits in the visitor’s browser, and not within one snippet', () => {
    const limits = { visitor: { afterSeconds: 5 } };
    expect(needs([{ ...MAKER, limits }, USER])).to.deep.equal([
      'User ← Maker: name pier parse, race whatever the order',
    ]);
    const both: ExampleSnippet = {
      name: 'Both',
      limits,
      parts: [
        { placement: 'head-start', code: '<script>function pier() {}</script>' },
        { placement: 'head-end', code: '<script>pier();</script>' },
      ],
    };
    expect(needs([both])).to.deep.equal(['Both ← Both: name pier parse, fine']);
  });
});

describe('what is moved', () => {
  const other = (name: string): ExampleSnippet => at(name, `<meta name="${name}" content="1">`);

  it('is what needs, next to what it needs', () => {
    expect(moves([other('A'), USER, other('B'), MAKER, other('C')])).to.deep.equal([
      'User → head-end after Maker',
    ]);
  });

  it('is what is needed, where the other stands as its provider wants it', () => {
    const said = { statement: 'Paste this just before the closing head tag.' };
    const user = at('User', '<script>pier();</script>', said);
    expect(moves([user, MAKER])).to.deep.equal(['Maker → head-end before User']);
    const elsewhere = at('User', '<script>pier();</script>', {
      statement: 'Put this right after the opening body tag.',
    });
    expect(moves([elsewhere, MAKER])).to.deep.equal(['User → head-end after Maker']);
  });

  for (const [kind, code] of [
    ['asks for consent', '<script src="https://biscuitkeel.example/cookie-consent.js"></script>'],
    ['is a container', CONTAINER],
  ] as const)
    it(`is what is needed, where the other ${kind}`, () => {
      const user = at('User', `<script>pier();</script>${code}`);
      expect(moves([user, MAKER])).to.deep.equal(['Maker → head-end before User']);
    });

  it('is one part where several need it, and not each of them', () => {
    const users = ['A', 'B', 'C'].map((name) => at(name, '<script>pier();</script>'));
    expect(moves([...users, MAKER])).to.deep.equal(['Maker → head-end before A']);
  });

  it('is nothing of what no order can help, and nothing that is in order', () => {
    const race = at(
      'Race',
      '<script async src="https://m.example/m.js"></script><script type="module">window.late = 1;</script>',
    );
    const late = at('Late', '<script>late;</script>');
    expect(moves([race, late])).to.deep.equal([]);
    const fine = [at('Fine', '<script>var quay = 1;</script>'), at('Uses', '<script>quay;</script>')];
    expect(moves([...fine, USER, MAKER])).to.deep.equal(['User → head-end after Maker']);
    expect(moves([...fine, MAKER, USER])).to.deep.equal([]);
  });

  it('is not what is in a circle; the rest is put right all the same', () => {
    const circle = [
      at('Fares', '<script>window.fares = { boat: boats.next };</script>'),
      at('Boats', '<script>window.boats = { next: fares.boat };</script>'),
    ];
    expect(moves([...circle, USER, MAKER])).to.deep.equal([
      'User → head-end after Maker',
      'circle: Boats Fares',
    ]);
    const behind = at('Behind', '<script>boats.next;</script>');
    expect(moves([behind, ...circle])).to.deep.equal([
      'Behind → head-end after Boats',
      'circle: Boats Fares',
    ]);
  });

  it('is not what stands at an element of its page; where both do, it is left', () => {
    const anchored = (id: string) => ({ placement: { anchor: id, side: 'inside' } as const });
    const user = at('User', '<script>pier();</script>', anchored('a'));
    const maker = at('Maker', '<script>function pier() {}</script>', { placement: 'body-end' });
    expect(moves([user, maker])).to.deep.equal(['Maker → body-start before User']);
    const both = at('Maker', '<script>function pier() {}</script>', anchored('b'));
    expect(moves([user, both]).filter((line) => line.includes('→'))).to.deep.equal([]);
  });

  it('comes in the order of needs, where several are moved', () => {
    const chain = [
      at('Third', '<script>second;</script>'),
      at('Second', '<script>window.second = first;</script>'),
      at('First', '<script>window.first = 1;</script>'),
    ];
    const right = orderReport(exampleSet([other('A'), ...chain, other('B')])).right;
    expect(right.lists).to.have.length(1);
    const names = right.lists[0]!.parts.map((key) => key.split('/')[0]);
    expect(names.indexOf('first')).to.be.lessThan(names.indexOf('second'));
    expect(names.indexOf('second')).to.be.lessThan(names.indexOf('third'));
    expect(right.moves).to.have.length(2);
    expect(right.left).to.deep.equal([]);
  });

  it('goes to the nearest placement that it may stand in, and there next to where it was', () => {
    const seeker = at('Seeker', "<script>document.getElementById('box').hidden = true;</script>", {
      placement: 'body-start',
    });
    const box = at('Box', '<div id="box"></div>', { placement: 'body-end' });
    expect(moves([seeker, box])).to.deep.equal(['Seeker → body-end after Box']);
  });
});
