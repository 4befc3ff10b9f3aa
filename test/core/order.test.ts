import { expect } from 'chai';
import fc from 'fast-check';
import { propertyRuns } from '../support/property-runs.js';
import {
  Precedences,
  applyFix,
  exampleSet,
  happensBefore,
  minimumWeightVertexCover,
  moveWords,
  readCode,
  rightOrder,
  runChecks,
  type Dependency,
  type ExampleSnippet,
  type ExecutionPhase,
  type OrderPart,
  type Placement,
} from '@pragmatica/core';
import { snippet } from '../support/sets.js';

const MOMENTS: readonly ExecutionPhase[] = ['parse', 'deferred', 'async', 'later'];

describe('the browser’s running order', () => {
  const before = (
    a: ExecutionPhase,
    b: ExecutionPhase,
    first = true,
    places: readonly [Placement, Placement] = ['head-end', 'head-end'],
  ) =>
    happensBefore(
      { when: a, position: first ? 0 : 1, placement: places[0] },
      { when: b, position: first ? 1 : 0, placement: places[1] },
    );

  it('is the document’s for code at its place, and for deferred scripts among themselves', () => {
    for (const when of ['parse', 'deferred'] as const) {
      expect(before(when, when)).to.equal('always');
      expect(before(when, when, false)).to.equal('never');
    }
  });

  it('puts deferred scripts behind all code at its place, wherever they stand', () => {
    for (const first of [true, false]) {
      expect(before('parse', 'deferred', first)).to.equal('always');
      expect(before('deferred', 'parse', first)).to.equal('never');
    }
  });

  it('leaves async scripts to the network, except that none runs before it was asked for', () => {
    expect(before('parse', 'async')).to.equal('always');
    expect(before('parse', 'async', false)).to.equal('maybe');
    expect(before('async', 'parse')).to.equal('maybe');
    expect(before('async', 'parse', false)).to.equal('never');
    for (const first of [true, false])
      for (const when of ['async', 'deferred'] as const)
        expect(before('async', when, first)).to.equal('maybe');
  });

  it('never says both of two things to be surely first', () => {
    for (const a of MOMENTS)
      for (const b of MOMENTS)
        for (const first of [true, false]) {
          const [one, other] = [before(a, b, first), before(b, a, !first)];
          expect([one, other], `${a} ${b}`).not.to.deep.equal(['always', 'always']);
          if (one === 'always') expect(other, `${a} ${b}`).not.to.equal('always');
        }
  });

  it('does not know which of two anchors comes first in the page', () => {
    const anchors = ['one', 'two'].map((anchor): Placement => ({ anchor, side: 'inside' }));
    expect(before('parse', 'parse', true, [anchors[0]!, anchors[1]!])).to.equal('maybe');
    expect(before('parse', 'parse', true, [anchors[0]!, anchors[0]!])).to.equal('always');
  });
});

describe('the lightest cover', () => {
  /** Pairs of a partial order: numbers as points of a plane, one less than another in both. */
  const partialOrder = fc
    .array(fc.tuple(fc.nat(6), fc.nat(6), fc.integer({ min: 1, max: 5 })), { minLength: 1, maxLength: 8 })
    .map((points) => ({
      weights: points.map(([, , weight]) => weight),
      greater: points.map(([x, y], i) =>
        points.flatMap(([u, v], j) => (i !== j && u >= x && v >= y && (u > x || v > y) ? [j] : [])),
      ),
    }));

  it('weighs as little as any that touches all pairs, held against trying every set', () => {
    fc.assert(
      fc.property(partialOrder, ({ weights, greater }) => {
        const covers = (set: number): boolean =>
          greater.every((list, i) => list.every((j) => (set >> i) & 1 || (set >> j) & 1));
        const applyWaivers = (set: number): number =>
          weights.reduce((sum, weight, i) => sum + ((set >> i) & 1 ? weight : 0), 0);
        let least = Infinity;
        for (let set = 0; set < 1 << weights.length; set++)
          if (covers(set)) least = Math.min(least, applyWaivers(set));
        const found = minimumWeightVertexCover(weights, greater).reduce((set, item) => set | (1 << item), 0);
        expect(covers(found)).to.equal(true);
        expect(applyWaivers(found)).to.equal(least);
      }),
      propertyRuns(300),
    );
  });
});

describe('precedences', () => {
  const graph = new Precedences([
    ['a', 'b'],
    ['b', 'c'],
    ['c', 'a'],
    ['c', 'd'],
    ['x', 'y'],
  ]);

  it('follow from each other', () => {
    expect([...graph.closure().get('b')!].sort()).to.deep.equal(['a', 'b', 'c', 'd']);
    expect([...graph.closure().get('x')!]).to.deep.equal(['y']);
  });

  it('have circles, and groups that have nothing to do with each other', () => {
    expect(graph.cycles().map((cycle) => cycle.sort())).to.deep.equal([['a', 'b', 'c']]);
    expect(graph.components().map((group) => group.sort())).to.deep.equal([
      ['a', 'b', 'c', 'd'],
      ['x', 'y'],
    ]);
  });

  it('may be as long as a large set', () => {
    const chain = new Precedences(Array.from({ length: 20_000 }, (_, i) => [`${i}`, `${i + 1}`] as const));
    expect(chain.cycles()).to.deep.equal([]);
  });
});

describe('the smallest set of moves', () => {
  const PLACEMENTS = ['head-start', 'head-end', 'body-start', 'body-end'] as const;
  const facts = readCode('<script>window.plain = 1;</script>');

  function line(placements: readonly Placement[]): OrderPart[] {
    return placements.map((placement, position) => {
      const part = { placement, rank: position, code: '' };
      const key = `s${position}`;
      return {
        key: `${key}/1`,
        position,
        facts,
        part,
        snippet: snippet(key, { parts: [part] }),
      };
    });
  }

  const stated = (first: OrderPart, then: OrderPart): Dependency => ({
    first,
    then,
    reason: { kind: 'stated' },
    verdict: first.position < then.position ? 'fine' : 'wrong',
    isByOrder: true,
  });

  /** Page order after a rearrangement. */
  function after(parts: readonly OrderPart[], lists: ReturnType<typeof rightOrder>['lists']): string[] {
    const named = new Map(lists.map(({ placement, parts: keys }) => [placement, keys]));
    const moved = new Set(lists.flatMap(({ parts: keys }) => keys));
    return PLACEMENTS.flatMap(
      (placement) =>
        named.get(placement) ??
        parts
          .filter(({ key, part }) => part.placement === placement && !moved.has(key))
          .map(({ key }) => key),
    );
  }

  const scene = fc
    .record({
      placements: fc.array(fc.nat(3), { minLength: 2, maxLength: 7 }).map((numbers) => numbers.sort()),
      wants: fc.array(fc.tuple(fc.nat(6), fc.nat(6)), { minLength: 1, maxLength: 8 }),
      shuffled: fc.shuffledSubarray([0, 1, 2, 3, 4, 5, 6], { minLength: 7 }),
    })
    .map(({ placements, wants, shuffled }) => {
      const parts = line(placements.map((number) => PLACEMENTS[number]!));
      // Without circles: everything follows some total order.
      const dependencies = wants.flatMap(([a, b]) => {
        const [first, then] = shuffled.indexOf(a) < shuffled.indexOf(b) ? [a, b] : [b, a];
        return a === b || !parts[first] || !parts[then] ? [] : [stated(parts[first], parts[then])];
      });
      return { parts, dependencies };
    });

  it('makes every order right that has no circle, each part there once, the others where they were', () => {
    fc.assert(
      fc.property(scene, ({ parts, dependencies }) => {
        const { moves, lists, left, cycles } = rightOrder(parts, dependencies);
        expect([left, cycles]).to.deep.equal([[], []]);
        const keys = after(parts, lists);
        expect([...keys].sort()).to.deep.equal(parts.map(({ key }) => key).sort());
        for (const { first, then } of dependencies)
          expect(keys.indexOf(first.key), `${first.key} before ${then.key}`).to.be.lessThan(
            keys.indexOf(then.key),
          );
        const moved = new Set(moves.map(({ part }) => part.key));
        const stay = parts.map(({ key }) => key).filter((key) => !moved.has(key));
        expect(keys.filter((key) => !moved.has(key))).to.deep.equal(stay);
      }),
      propertyRuns(500),
    );
  });

  it('is smallest, held against trying every set', () => {
    fc.assert(
      fc.property(scene, ({ parts, dependencies }) => {
        const { moves } = rightOrder(parts, dependencies);
        const closure = new Precedences(
          dependencies.map(({ first, then }) => [first.key, then.key]),
        ).closure();
        let least = Infinity;
        for (let set = 0; set < 1 << parts.length; set++) {
          const stays = parts.filter((_, i) => !((set >> i) & 1));
          const isRight = stays.every((a) =>
            stays.every((b) => a.position <= b.position || closure.get(a.key)?.has(b.key) !== true),
          );
          if (isRight) least = Math.min(least, parts.length - stays.length);
        }
        expect(moves.length).to.equal(least);
      }),
      propertyRuns(500),
    );
  });

  it('leaves parts alone that cannot stand elsewhere, and says what stays wrong', () => {
    const [one, two] = line([{ anchor: 'a', side: 'inside' }, 'body-end']);
    const movable = rightOrder([one!, two!], [stated(two!, one!)]);
    expect(movable.moves.map(({ part }) => part)).to.deep.equal([two]);
    const fixed = line([
      { anchor: 'a', side: 'inside' },
      { anchor: 'a', side: 'inside' },
    ]);
    const stuck = rightOrder(fixed, [stated(fixed[1]!, fixed[0]!)]);
    expect(stuck.moves).to.deep.equal([]);
    expect(stuck.left).to.have.length(1);
  });

  it('explains each move in one sentence', () => {
    const parts = line(['head-start', 'head-end', 'head-end']);
    const { moves } = rightOrder(parts, [stated(parts[2]!, parts[0]!)]);
    expect(moves.map(moveWords)).to.deep.equal([
      'Move “S0” to the end of the head, right below “S2”: a note says that “S0” needs “S2”.',
    ]);
  });
});

describe('the order of a set', () => {
  const at = (placement: Placement, name: string, code: string, more: Partial<ExampleSnippet> = {}) => ({
    name,
    parts: [{ placement, code }],
    ...more,
  });
  const order = (...snippets: ExampleSnippet[]) =>
    runChecks(exampleSet(snippets)).filter(({ area }) => area === 'order');

  it('is put right by one fix for all that hang together', () => {
    const set = exampleSet([
      at('head-start', 'Event', "<script>tally('seen');</script>"),
      at('head-end', 'Other event', "<script>tally('other');</script>"),
      at(
        'head-end',
        'Counter',
        '<script>function tally() { (tally.q = tally.q || []).push(arguments); }</script>',
      ),
    ]);
    const found = runChecks(set);
    expect(found.map(({ check }) => check)).to.deep.equal(['used-before-defined', 'used-before-defined']);
    expect(found[0]!.fix).to.deep.equal(found[1]!.fix);
    // One move instead of two: the counter, although others need it.
    expect(found[0]!.fix!.title).to.match(/^Move “Counter”/);
    expect(runChecks(applyFix(set, found[0]!.fix!))).to.deep.equal([]);
  });

  it('counts what people stated, whether it is there, on and on the same pages', () => {
    const asker = at('head-start', 'Ask', '<script src="https://biscuitkeel.example/ask.js"></script>');
    const pixel = (needs: string[], more = {}) =>
      at('head-end', 'Pixel', '<script async src="https://glintpixel.example/p.js?id=GP-40-77"></script>', {
        needs,
        ...more,
      });
    expect(order(asker, pixel(['ask']))).to.deep.equal([]);
    expect(order(asker, pixel(['gone'])).map(({ title }) => title)).to.deep.equal([
      '“Pixel” needs “gone”, which no longer exists',
    ]);
    expect(order({ ...asker, state: 'off' }, pixel(['ask']))[0]!.title).to.include('is switched off');
    expect(order({ ...asker, include: ['/fares'] }, pixel(['ask']))[0]!.title).to.include(
      'does not run on /',
    );
    expect(order({ ...asker, include: ['/fares'] }, pixel(['ask'], { include: ['/fares'] }))).to.deep.equal(
      [],
    );
  });

  it('sees settings in another snippet that come after the script of the same provider', () => {
    const loader = at('head-end', 'Chat', '<script src="https://cdn.parlanook.example/chat.js"></script>');
    const settings = at(
      'head-end',
      'Chat settings',
      "<script>window.parlanookSettings = { room: 'pier' };</script>",
    );
    expect(order(settings, loader)).to.deep.equal([]);
    expect(order(loader, settings).map(({ check }) => check)).to.deep.equal(['settings-after-loader']);
    const ofOthers = at('head-end', 'Other', "<script>window.chatSettings = { room: 'pier' };</script>");
    expect(order(loader, ofOthers)).to.deep.equal([]);
  });

  it('says of a maker that is ready only later that no order helps', () => {
    const [found] = order(
      at('head-start', 'Boats', '<script type="module">window.boats = { next: 1 };</script>'),
      at('head-end', 'Board', '<script>boats.next = 2;</script>'),
    );
    expect(found!.title).to.equal('“Board” needs “Boats”, which is not ready until later');
    expect(found!.severity).to.equal('error');
    expect(found!.fix).to.equal(undefined);
  });
});
