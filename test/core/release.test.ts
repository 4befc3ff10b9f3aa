import { expect } from 'chai';
import fc from 'fast-check';
import {
  ALL_PAGES,
  baggageOf,
  canonicalJson,
  difference,
  freezeSet,
  keyFromName,
  moveInList,
  orderLists,
  snapshotDigest,
  thawSet,
  type Field,
  type Limits,
  type Placement,
  type Snapshot,
  type SnapshotSnippet,
} from '@pragmatica/core';
import { propertyRuns } from '../support/property-runs.js';
import { part, set, snippet } from '../support/sets.js';

describe('a release', () => {
  it('has a digest that depends on its content alone, not on the order of keys', () => {
    const one = set(snippet('a'));
    const reversed = JSON.parse(JSON.stringify(one), (_key, value: unknown) =>
      value !== null && typeof value === 'object' && !Array.isArray(value)
        ? Object.fromEntries(Object.entries(value).reverse())
        : value,
    ) as typeof one;
    expect(JSON.stringify(reversed)).not.to.equal(JSON.stringify(one));
    expect(snapshotDigest(reversed))
      .to.equal(snapshotDigest(one))
      .and.to.match(/^[0-9a-f]{64}$/);
    expect(snapshotDigest(set(snippet('a', { note: 'x' })))).not.to.equal(snapshotDigest(one));
  });

  it('is written as canonical JSON (RFC 8785)', () => {
    expect(canonicalJson(set())).to.equal(
      '{"format":"pragmatica-set/1","site":{"key":"s","name":"S","timeZone":"UTC"},"snippets":[]}',
    );
  });
});

describe('a set taken apart', () => {
  const placed = fc.record({
    placement: fc.constantFrom<Placement>('head-start', 'body-end', { anchor: 'x', side: 'before' }),
    rank: fc.nat({ max: 9 }),
    code: fc.constantFrom('<i></i>', '<b></b>'),
  });
  const sets = fc
    .array(fc.array(placed, { maxLength: 4 }), { maxLength: 5 })
    .map((all) => set(...all.map((parts, index) => snippet(`s${index}`, { parts }))));

  it('is the same again when it is put together', () => {
    fc.assert(
      fc.property(sets, (whole) => {
        const again = thawSet(freezeSet(whole));
        expect(again).to.deep.equal(whole);
        expect(snapshotDigest(again)).to.equal(snapshotDigest(whole));
      }),
      propertyRuns(200),
    );
  });

  it('has the same snippets after another one has come before them', () => {
    const tail = snippet('tail', { parts: [part('body-end', 5), part('body-end', 3)] });
    const before = freezeSet(set(tail));
    const after = freezeSet(
      set({ ...tail, parts: [part('body-end', 6), part('body-end', 4)] }, snippet('new')),
    );
    expect(after.snippets[0]).to.deep.equal(before.snippets[0]);
    expect(before.snippets[0]!.parts.map(({ rank }) => rank)).to.deep.equal([1, 0]);
    expect(after.header.ranks).to.deep.equal([6, 4, 0]);
  });

  it('is refused where ranks are missing or left over', () => {
    const { header, snippets } = freezeSet(set(snippet('a')));
    expect(() => thawSet({ header: { ...header, ranks: [] }, snippets })).to.throw(
      RangeError,
      '0 ranks for 1 parts',
    );
    expect(() => thawSet({ header: { ...header, ranks: [0, 1] }, snippets })).to.throw(RangeError);
  });
});

describe('values that become fields', () => {
  const withCode = (code: string, state: 'on' | 'off', ...fields: Field[]): Snapshot => {
    const made = set(snippet('a', { state, parts: [part('body-end', 0, code)] }));
    return { ...made, site: { ...made.site, fields } };
  };
  const account: Field = { name: 'account', type: 'id', label: 'Account', value: 'TM-1' };
  const event = (from: Snapshot, to: Snapshot): [string, boolean][] =>
    difference(from, to).map(({ message, visible }) => [message, visible]);
  const plain = '<i title="TM-1"></i>';
  const written = '<i title="@{account}"></i>';

  it('change nothing for visitors where the values are the same everywhere', () => {
    expect(event(withCode(plain, 'on'), withCode(written, 'on', account))).to.deep.equal([
      ['The field “account” is new: “TM-1”.', false],
      ['“A” uses other fields in its code; visitors get the same.', false],
    ]);
    const other = { ...account, staging: 'TM-9' };
    expect(event(withCode(plain, 'on'), withCode(written, 'on', other))[1]).to.deep.equal([
      '“A” has new code: 1 line changed.',
      true,
    ]);
  });

  it('are noticed by visitors where a value changes that is used', () => {
    const next = { ...account, value: 'TM-2' };
    const changed = (state: 'on' | 'off', code: string): boolean =>
      event(withCode(code, state, account), withCode(code, state, next))[0]![1];
    expect([changed('on', written), changed('off', written), changed('on', plain)]).to.deep.equal([
      true,
      false,
      false,
    ]);
  });
});

describe('the difference between two sets', () => {
  const messages = (from: SnapshotSnippet[], to: SnapshotSnippet[]): string[] =>
    difference(set(...from), set(...to)).map((change) => change.message);

  const CASES: readonly { what: string; from: SnapshotSnippet[]; to: SnapshotSnippet[]; says: string[] }[] = [
    { what: 'nothing', from: [snippet('a')], to: [snippet('a')], says: [] },
    {
      what: 'a new snippet',
      from: [],
      to: [snippet('a')],
      says: ['“A” is new: at the end of the body, on all pages.'],
    },
    { what: 'a snippet that is gone', from: [snippet('a')], to: [], says: ['“A” is gone.'] },
    {
      what: 'a switch',
      from: [snippet('a')],
      to: [snippet('a', { state: 'off' })],
      says: ['“A” is switched off.'],
    },
    {
      what: 'what must come first',
      from: [snippet('a')],
      to: [snippet('a', { needs: ['b'] })],
      says: ['“A” has a new list of what must come first; visitors notice nothing.'],
    },
    {
      what: 'the archive',
      from: [snippet('a', { state: 'archived' })],
      to: [snippet('a')],
      says: ['“A” is restored from the archive and switched on.'],
    },
    {
      what: 'other pages',
      from: [snippet('a')],
      to: [snippet('a', { pages: { include: ['/x', '/y'], exclude: ['/y/z'] } })],
      says: ['“A” now runs on /x and /y, but not on /y/z; before, on all pages.'],
    },
    {
      what: 'another placement',
      from: [snippet('a')],
      to: [snippet('a', { parts: [part({ anchor: 'box', side: 'before' })] })],
      says: ['“A” moves: its code is now before the element #box; before, at the end of the body.'],
    },
    {
      what: 'new code',
      from: [snippet('a', { parts: [part('body-end', 0, 'one\ntwo')] })],
      to: [snippet('a', { parts: [part('body-end', 0, 'one\nthree\nfour')] })],
      says: ['“A” has new code: 2 lines added, 1 line removed.'],
    },
    {
      what: 'a note',
      from: [snippet('a')],
      to: [snippet('a', { note: 'n' })],
      says: ['“A” has a new note; visitors notice nothing.'],
    },
    {
      what: 'a second part',
      from: [snippet('a')],
      to: [snippet('a', { parts: [part('body-end'), part('head-start')] })],
      says: ['“A” has a new part, at the start of the head.'],
    },
    {
      what: 'the order',
      from: [
        snippet('a', { parts: [part('body-end', 0)] }),
        snippet('b', { parts: [part('body-end', 1)] }),
        snippet('c', { parts: [part('body-end', 2)] }),
      ],
      to: [
        snippet('a', { parts: [part('body-end', 1)] }),
        snippet('b', { parts: [part('body-end', 2)] }),
        snippet('c', { parts: [part('body-end', 0)] }),
      ],
      says: ['“C” now comes right before “A” at the end of the body.'],
    },
  ];
  for (const { what, from, to, says } of CASES) {
    it(`says ${what} in words`, () => expect(messages(from, to)).to.deep.equal(says));
  }

  it('names the fewest parts that must have moved, and none when only ranks have other numbers', () => {
    const keys = ['a', 'b', 'c', 'd', 'e', 'f'];
    const inOrder = (order: readonly string[], factor = 1) =>
      set(...keys.map((key) => snippet(key, { parts: [part('head-end', order.indexOf(key) * factor)] })));
    fc.assert(
      fc.property(fc.shuffledSubarray(keys, { minLength: 6 }), (order) => {
        const moved = difference(inOrder(keys), inOrder(order)).length;
        const longest = Math.max(
          ...subsequences(order)
            .filter(isSorted)
            .map((sequence) => sequence.length),
        );
        expect(moved).to.equal(keys.length - longest);
      }),
      { numRuns: 100 },
    );
    expect(difference(inOrder(keys), inOrder(keys, 10))).to.have.length(0);
  });

  it('knows what visitors do not notice', () => {
    expect(
      difference(set(snippet('a')), set(snippet('a', { purpose: 'p' }))).map((change) => change.visible),
    ).to.deep.equal([false]);
    expect(
      difference(set(), set(snippet('a', { state: 'off' }))).map((change) => change.visible),
    ).to.deep.equal([false]);
  });
});

describe('the order of parts', () => {
  it('is one list for each placement', () => {
    const lists = orderLists(
      set(
        snippet('a', { parts: [part('body-end', 3), part('head-end')] }),
        snippet('b', { parts: [part('body-end', 1)] }),
      ),
    );
    expect(lists).to.deep.equal([
      { placement: 'head-end', parts: ['a/2'] },
      { placement: 'body-end', parts: ['b/1', 'a/1'] },
    ]);
  });

  it('moves one part and keeps the others as they were', () => {
    const list = ['a', 'b', 'c'];
    expect(moveInList(list, 'c', { to: 'first' })).to.deep.equal(['c', 'a', 'b']);
    expect(moveInList(list, 'a', { after: 'b' })).to.deep.equal(['b', 'a', 'c']);
    expect(moveInList(list, 'c', { before: 'b' })).to.deep.equal(['a', 'c', 'b']);
    expect(moveInList(list, 'x', { to: 'last' })).to.equal(undefined);
    expect(moveInList(list, 'a', { before: 'x' })).to.equal(undefined);
  });
});

describe('a key made from a name', () => {
  it('is plain letters, digits and dashes', () => {
    expect(keyFromName('  Harbour Chat (new!) ')).to.equal('harbour-chat-new');
    expect(keyFromName('Café Ærø')).to.equal('cafe-r');
    expect(keyFromName('…')).to.equal('');
  });
});

function subsequences<T>(items: readonly T[]): T[][] {
  return items.reduce<T[][]>((all, item) => [...all, ...all.map((sequence) => [...sequence, item])], [[]]);
}

function isSorted(sequence: readonly string[]): boolean {
  return sequence.every((item, index) => index === 0 || sequence[index - 1]! < item);
}

describe('what differs in reach and in what a site defines', () => {
  const base = set(snippet('a'));
  const on = (limits: Limits, pages = ALL_PAGES): Snapshot => set(snippet('a', { limits, pages }));
  const words = (from: Snapshot, to: Snapshot): string[] =>
    difference(from, to).map(({ message }) => message);

  it('is said of each limit in words', () => {
    expect(words(base, on({ devices: ['phone'], consent: ['adverts'] }))).to.deep.equal([
      '“A” now runs only on phones, with consent to adverts; before, always and for everybody.',
    ]);
    expect(words(on({ environment: 'live' }), on({ environment: 'staging' }))).to.deep.equal([
      '“A” now runs only on staging; before, only on live.',
    ]);
    expect(words(on({ visitor: { afterSeconds: 1 } }), on({ visitor: { afterSeconds: 1 } }))).to.deep.equal(
      [],
    );
    const both = words(
      on({}, { include: ['/a'], exclude: [] }),
      on({ devices: ['tablet'] }, { include: ['/b'], exclude: [] }),
    );
    expect(both).to.deep.equal([
      '“A” now runs on /b; before, on /a.',
      '“A” now runs only on tablets; before, always and for everybody.',
    ]);
    const added = set(snippet('a'), snippet('b', { limits: { devices: ['phone'] } }));
    expect(words(base, added)).to.deep.equal([
      '“B” is new: at the end of the body, on all pages, only on phones.',
    ]);
  });

  it('is said of page groups, purposes, fields and the time zone, none of which is about one snippet', () => {
    const site = (change: Partial<Snapshot['site']>): Snapshot => ({
      ...base,
      site: { ...base.site, ...change },
    });
    const group = { key: 'g', name: 'G', patterns: ['/a'] };
    const field = { name: 'f', type: 'id', label: 'F', value: '1' } as const;
    const consent: Snapshot['site']['consent'] = {
      categories: [{ key: 'adverts', name: 'Adverts' }],
      cookie: 'agreed',
      format: { kind: 'list' },
    };
    expect(
      words(base, site({ pageGroups: [group], fields: [field], consent, timeZone: 'Europe/Dublin' })),
    ).to.deep.equal([
      'The page group “G” is new: /a.',
      'Consent is defined or read differently.',
      'The field “f” is new: “1”.',
      'Hours are those of Europe/Dublin; before, of UTC.',
    ]);
    expect(words(site({ pageGroups: [group], fields: [field] }), base)).to.deep.equal([
      'The page group “G” is gone.',
      'The field “f” is gone.',
    ]);
    expect(words(site({ fields: [field] }), site({ fields: [{ ...field, staging: '2' }] }))).to.deep.equal([
      'The field “f” is now “2” on staging; before, “1”.',
    ]);
    expect(difference(base, site({ pageGroups: [group] }))[0]!.snippet).to.equal('');
  });
});

describe('a snippet that goes to another site', () => {
  it('takes along what it uses and the other does not have, without the values of where it was', () => {
    const used = snippet('a', {
      pages: { include: ['@booked', '/x'], exclude: ['@there'] },
      limits: { consent: ['adverts', 'visits'] },
      parts: [part('body-end', 0, '<p title="@{account}">@{colour}</p>')],
    });
    const from: Snapshot['site'] = {
      ...set().site,
      pageGroups: ['booked', 'there', 'other'].map((key) => ({ key, name: key, patterns: [`/${key}`] })),
      fields: ['account', 'colour', 'other'].map((name) => ({
        name,
        type: 'text',
        label: name,
        example: 'e',
        value: 'v',
        staging: 's',
      })),
    };
    const to: Snapshot['site'] = {
      ...set().site,
      pageGroups: [{ key: 'there', name: 'There', patterns: ['/elsewhere'] }],
      fields: [{ name: 'colour', type: 'text', label: 'Colour', value: 'mine' }],
      consent: { categories: [{ key: 'visits', name: 'Visits' }], cookie: 'c', format: { kind: 'list' } },
    };
    expect(baggageOf(used, from, to)).to.deep.equal({
      fields: [{ name: 'account', type: 'text', label: 'account', example: 'e' }],
      pageGroups: [{ key: 'booked', name: 'booked', patterns: ['/booked'] }],
      missingConsent: ['adverts'],
    });
  });
});
