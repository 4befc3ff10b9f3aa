import {
  applyChanges,
  partKey,
  placementKey,
  ranksFor,
  snippetsOf,
  withSnippet,
  type SetChange,
  type Snapshot,
} from '@pragmatica/core';
import { expect } from 'chai';
import { part, set, snippet } from '../support/sets.js';

/** A set as a table: placement, rank and code of each part, and the states that are not on. */
const table = ({ snippets }: Snapshot): string[] =>
  snippets.flatMap(({ key, state, parts }) => [
    ...(state === 'on' ? [] : [`${key} ${state}`]),
    ...parts.map((one, i) => `${partKey(key, i)} ${placementKey(one.placement)} ${one.rank} ${one.code}`),
  ]);

const SET = set(
  snippet('a', { parts: [part('head-end', 0, 'a1'), part('body-end', 0, 'a2')] }),
  snippet('b', { parts: [part('body-end', 1, 'b1')] }),
  snippet('c', { state: 'archived', parts: [part('body-end', 4, 'c1')] }),
);

describe('changes of a set', () => {
  const after = (...changes: SetChange[]): string[] => table(applyChanges(SET, changes));
  const AS_IT_WAS = [
    'a/1 head-end 0 a1',
    'a/2 body-end 0 a2',
    'b/1 body-end 1 b1',
    'c archived',
    'c/1 body-end 4 c1',
  ];

  it('leave everything else as it was, and the set that they are made of', () => {
    expect(after()).to.deep.equal(AS_IT_WAS);
    after({ kind: 'switch-off', snippet: 'a' }, { kind: 'remove-part', part: 'b/1' });
    expect(table(SET)).to.deep.equal(AS_IT_WAS);
  });

  it('switch off, and only what they name', () => {
    expect(after({ kind: 'switch-off', snippet: 'b' })).to.deep.equal([
      ...AS_IT_WAS.slice(0, 2),
      'b off',
      ...AS_IT_WAS.slice(2),
    ]);
  });

  it('edit code, remove parts and add them last in their placement', () => {
    expect(after({ kind: 'edit-code', part: 'a/2', code: 'new' })).to.deep.equal([
      'a/1 head-end 0 a1',
      'a/2 body-end 0 new',
      ...AS_IT_WAS.slice(2),
    ]);
    expect(after({ kind: 'remove-part', part: 'a/1' })).to.deep.equal([
      'a/1 body-end 0 a2',
      ...AS_IT_WAS.slice(2),
    ]);
    expect(
      after(
        { kind: 'add-part', snippet: 'b', placement: 'body-end', code: 'b2' },
        { kind: 'add-part', snippet: 'b', placement: 'body-end', code: 'b3' },
        { kind: 'add-part', snippet: 'a', placement: 'body-start', code: 'a3' },
      ),
    ).to.deep.equal([
      ...AS_IT_WAS.slice(0, 2),
      'a/3 body-start 0 a3',
      'b/1 body-end 1 b1',
      'b/2 body-end 5 b2',
      'b/3 body-end 6 b3',
      ...AS_IT_WAS.slice(3),
    ]);
  });

  it('move a part to the end of another placement', () => {
    expect(after({ kind: 'move-part', part: 'a/1', placement: 'body-end' })[0]).to.equal('a/1 body-end 5 a1');
    expect(after({ kind: 'move-part', part: 'b/1', placement: 'body-start' })[2]).to.equal(
      'b/1 body-start 0 b1',
    );
  });

  it('arrange placements; a part that is named stands there then, and one that is new comes after them', () => {
    const arrange: SetChange = {
      kind: 'arrange',
      lists: [{ placement: 'body-end', parts: ['c/1', 'a/1', 'b/1', 'a/2'] }],
      moved: ['a/1'],
    };
    expect(after(arrange)).to.deep.equal([
      'a/1 body-end 1 a1',
      'a/2 body-end 3 a2',
      'b/1 body-end 2 b1',
      'c archived',
      'c/1 body-end 0 c1',
    ]);
    const long: SetChange = {
      kind: 'arrange',
      lists: [{ placement: 'head-end', parts: ['a/1', 'a/2', 'b/1'] }],
      moved: [],
    };
    const added: SetChange = { kind: 'add-part', snippet: 'c', placement: 'head-end', code: 'c2' };
    expect(after(long, added).at(-1)).to.equal('c/2 head-end 3 c2');
  });

  it('name parts by the keys from before any of them', () => {
    expect(
      after({ kind: 'remove-part', part: 'a/1' }, { kind: 'edit-code', part: 'a/2', code: 'second' })[0],
    ).to.equal('a/1 body-end 0 second');
  });

  it('say which snippets they are about', () => {
    const about: [SetChange, string[]][] = [
      [{ kind: 'switch-off', snippet: 'a' }, ['a']],
      [{ kind: 'add-part', snippet: 'b', placement: 'body-end', code: '' }, ['b']],
      [{ kind: 'edit-code', part: 'c/2', code: '' }, ['c']],
      [{ kind: 'move-part', part: 'd/1', placement: 'body-end' }, ['d']],
      [{ kind: 'remove-part', part: 'e/1' }, ['e']],
      [
        { kind: 'arrange', lists: [{ placement: 'body-end', parts: ['a/1', 'b/1', 'a/2'] }], moved: [] },
        ['a', 'b', 'a'],
      ],
    ];
    for (const [change, keys] of about) expect(snippetsOf(change), change.kind).to.deep.equal(keys);
  });
});

describe('a snippet in a set', () => {
  it('is ranked last where it is new, and where it was where it stays', () => {
    const all = SET.snippets.flatMap(({ parts }) => parts);
    expect(
      ranksFor(all, [], [{ placement: 'body-end' }, { placement: 'body-end' }, { placement: 'head-start' }]),
    ).to.deep.equal([5, 6, 0]);
    const own = SET.snippets[0]!.parts;
    expect(ranksFor(all, own, [{ placement: 'body-end' }, { placement: 'body-end' }])).to.deep.equal([5, 0]);
  });

  it('takes the place of the one with its key, or comes last', () => {
    const { key, name, ...rest } = snippet('b');
    const changed = withSnippet(SET, { ...rest, key, name, parts: [{ placement: 'body-end', code: 'new' }] });
    expect(table(changed)[2]).to.equal('b/1 body-end 1 new');
    const more = withSnippet(SET, { ...snippet('d'), parts: [{ placement: 'body-end', code: 'd1' }] });
    expect(table(more).at(-1)).to.equal('d/1 body-end 5 d1');
  });
});
