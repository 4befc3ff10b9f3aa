import {
  hoursAt,
  mergeSnippets,
  parseWeekly,
  unitedHours,
  WEEKDAYS,
  zoneClock,
  type Hours,
  type MergeChoice,
  type SnapshotSnippet,
} from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { propertyRuns } from '../../support/property-runs.js';

const SITE = { key: 'mill', name: 'Tide Mill', timeZone: 'Europe/Berlin' };
const CODE = '<script>\nvar a = 1;\nvar b = 2;\nvar c = 3;\nvar d = 4;\n</script>';
const BASE: SnapshotSnippet = {
  key: 'chat',
  name: 'Chat',
  purpose: 'Talk',
  provider: 'Parlanook',
  note: '',
  state: 'on',
  pages: { include: ['/a', '/b'], exclude: [] },
  limits: { hours: { weekly: parseWeekly('mon-fri 09:00-17:00') } },
  needs: ['consent'],
  parts: [{ placement: 'head-end', rank: 3, code: CODE }],
};
const part = BASE.parts[0]!;
const merge = (
  theirs: Partial<SnapshotSnippet>,
  yours: Partial<SnapshotSnippet>,
  choices: Record<string, MergeChoice> = {},
) => mergeSnippets(BASE, { ...BASE, ...theirs }, { ...BASE, ...yours }, SITE, choices);

describe('a snippet that two people change at once', () => {
  it('has the changes of both where they changed different things', () => {
    const { snippet, conflicts, theirs, yours } = merge(
      { name: 'Harbour chat', limits: { ...BASE.limits, devices: ['phone'] } },
      { note: 'Ask Inga', parts: [{ ...part, placement: 'body-end' }] },
    );
    expect(conflicts).to.deep.equal([]);
    expect(snippet).to.deep.include({ name: 'Harbour chat', note: 'Ask Inga' });
    expect(snippet.limits).to.deep.equal({ ...BASE.limits, devices: ['phone'] });
    expect(snippet.parts[0]).to.deep.include({ placement: 'body-end', code: CODE });
    expect({ theirs, yours }).to.deep.equal({ theirs: ['name', 'devices'], yours: ['note', 'placement'] });
  });

  it('asks about what both changed otherwise, in words, and takes neither by itself', () => {
    const theirs = { limits: { hours: { weekly: parseWeekly('mon-fri 08:00-12:00') } } };
    const yours = { limits: { hours: { weekly: parseWeekly('mon-fri 11:00-20:00') } } };
    const { snippet, conflicts } = merge(theirs, yours);
    expect(conflicts).to.deep.equal([
      {
        ...{ id: 'limits/hours', what: 'hours' },
        theirs: 'Mon–Fri 08:00–12:00',
        yours: 'Mon–Fri 11:00–20:00',
        both: 'Mon–Fri 08:00–20:00',
      },
    ]);
    expect(snippet.limits).to.deep.equal(theirs.limits);
    expect(merge(theirs, yours, { 'limits/hours': 'yours' }).snippet.limits).to.deep.equal(yours.limits);
    expect(merge(theirs, yours, { 'limits/hours': 'both' }).snippet.limits).to.deep.equal({
      hours: { weekly: parseWeekly('mon-fri 08:00-20:00') },
    });
  });

  it('keeps both of code line by line, and not where they changed the same lines', () => {
    const withCode = (code: string) => ({ parts: [{ ...part, code }] });
    const apart = merge(withCode(CODE.replace('a = 1', 'a = 9')), withCode(CODE.replace('d = 4', 'd = 9')), {
      'parts/1/code': 'both',
    });
    expect(apart.snippet.parts[0]!.code).to.equal(CODE.replace('a = 1', 'a = 9').replace('d = 4', 'd = 9'));
    const same = merge(withCode(CODE.replace('a = 1', 'a = 9')), withCode(CODE.replace('a = 1', 'a = 7')), {
      'parts/1/code': 'both',
    });
    expect(same.conflicts[0]!.both).to.equal(undefined);
    expect(same.snippet.parts[0]!.code).to.include('a = 9');
    const long = 'x\n'.repeat(3_500);
    expect(merge(withCode(`${long}1`), withCode(`${long}2`)).conflicts[0]!.both).to.equal(undefined);
  });

  it('keeps both of lists: what either added, without what either took out', () => {
    const { conflicts, snippet } = merge(
      { pages: { include: ['/a', '/b', '/c'], exclude: [] }, needs: ['consent', 'library'], note: 'Theirs' },
      { pages: { include: ['/a', '/d'], exclude: [] }, needs: ['tags'], note: 'Yours' },
      { pages: 'both', needs: 'both', note: 'both' },
    );
    expect(conflicts.map(({ id }) => id)).to.have.members(['pages', 'needs', 'note']);
    expect(snippet.pages).to.deep.equal({ include: ['/a', '/c', '/d'], exclude: [] });
    expect(snippet.needs).to.deep.equal(['library', 'tags']);
    expect(snippet.note).to.equal('Theirs\nYours');
    // All pages and some pages do not add up.
    const all = merge({ pages: { include: [], exclude: [] } }, { pages: { include: ['/d'], exclude: [] } });
    expect(all.conflicts[0]!.both).to.equal(undefined);
    // A name has no both.
    expect(merge({ name: 'One' }, { name: 'Two' }).conflicts[0]!.both).to.equal(undefined);
  });

  it('takes parts as a whole where one has another number of them', () => {
    const more = [part, { placement: 'body-end' as const, rank: 9, code: '<b>2</b>' }];
    const { conflicts, snippet } = merge({ parts: more }, { parts: [{ ...part, code: 'x' }] });
    expect(conflicts).to.deep.equal([
      { id: 'parts', what: 'code', theirs: '2 parts', yours: '1 part', both: undefined },
    ]);
    expect(snippet.parts).to.have.length(2);
    expect(merge({ name: 'New' }, { parts: more }).snippet.parts).to.have.length(2);
  });

  it('says nothing of what both did alike, of order, and of switching', () => {
    const { conflicts, theirs, yours } = merge(
      { name: 'Same', state: 'off', parts: [{ ...part, rank: 12 }], limits: { ...BASE.limits, devices: [] } },
      { name: 'Same', parts: [{ ...part, statement: '', per: 'load' }] },
    );
    expect({ conflicts, theirs, yours }).to.deep.equal({ conflicts: [], theirs: [], yours: [] });
  });

  const texts = fc.constantFrom('', 'a', 'b', 'c');
  const snippets = fc
    .record({
      name: texts,
      note: texts,
      needs: fc.subarray(['consent', 'library']),
      include: fc.subarray(['/a', '/b']),
      codes: fc.array(texts, { minLength: 1, maxLength: 2 }),
    })
    .map(({ include, codes, ...rest }) => ({
      ...{ ...BASE, ...rest, pages: { include, exclude: [] } },
      parts: codes.map((code) => ({ ...part, code })),
    }));
  const same = (a: SnapshotSnippet, b: SnapshotSnippet): void => {
    const { conflicts, theirs, yours } = mergeSnippets(a, a, b, SITE);
    expect({ conflicts, theirs, yours }).to.deep.equal({ conflicts: [], theirs: [], yours: [] });
  };

  it('is what the one who changed it made it, where the other did nothing', () => {
    fc.assert(
      fc.property(snippets, snippets, (base, changed) => {
        same(mergeSnippets(base, changed, base, SITE).snippet, changed);
        same(mergeSnippets(base, base, changed, SITE).snippet, changed);
        same(mergeSnippets(base, changed, changed, SITE).snippet, changed);
      }),
      propertyRuns(300),
    );
  });

  it('comes out the same whoever saves first, once all is decided', () => {
    fc.assert(
      fc.property(snippets, snippets, snippets, (base, one, other) => {
        const ids = mergeSnippets(base, one, other, SITE).conflicts.map(({ id }) => id);
        const choose = (choice: MergeChoice) => Object.fromEntries(ids.map((id) => [id, choice]));
        same(
          mergeSnippets(base, one, other, SITE, choose('yours')).snippet,
          mergeSnippets(base, other, one, SITE, choose('theirs')).snippet,
        );
      }),
      propertyRuns(300),
    );
  });
});

describe('hours that are open whenever either is', () => {
  const time = fc.integer({ min: 0, max: 23 }).map((hour) => `${String(hour).padStart(2, '0')}:00`);
  const spans = fc.array(fc.record({ from: time, to: time }), { maxLength: 2 });
  const hours = fc
    .dictionary(fc.constantFrom(...WEEKDAYS), spans, { maxKeys: 4 })
    .map((weekly): Hours => ({ weekly, closed: ['12-25'] }));

  it('are open at just the moments at which one of them is', () => {
    const clock = zoneClock('Europe/Berlin');
    let united = 0;
    fc.assert(
      fc.property(hours, hours, fc.integer({ min: 0, max: 24 * 400 }), (a, b, hour) => {
        const both = unitedHours(a, b);
        if (!both) return;
        united++;
        const moment = Date.UTC(2026, 10, 1) + hour * 3_600_000 + 60_000;
        const isOpen = (one: Hours): boolean => hoursAt(one, clock, moment).isOpen;
        expect(isOpen(both)).to.equal(isOpen(a) || isOpen(b));
      }),
      propertyRuns(500),
    );
    expect(united).to.be.greaterThan(100);
  });

  it('are none where single days differ, or one is always open', () => {
    const weekly = parseWeekly('mon 09:00-12:00');
    expect(unitedHours({ weekly }, { weekly, closed: ['12-25'] })).to.equal(undefined);
    expect(unitedHours({ weekly }, { first: '2027-01-01' })).to.equal(undefined);
  });
});
