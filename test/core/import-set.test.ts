import { expect } from 'chai';
import fc from 'fast-check';
import { difference, importedSet, orderedParts, snapshotDigest, type Snapshot } from '@pragmatica/core';
import { propertyRuns } from '../support/property-runs.js';
import { part, set, snippet } from '../support/sets.js';

const counter = snippet('counter', { parts: [part('head-end', 0, '<script>count()</script>')] });
const chat = snippet('chat', { parts: [part('body-end', 0, '<script>chat()</script>')] });
const offer = snippet('offer', { parts: [part('body-end', 1, '<script>offer()</script>')] });
const BASE = set(counter, chat, offer);
const keys = (snapshot: Snapshot): string[] => snapshot.snippets.map(({ key }) => key);
const order = (snapshot: Snapshot): string[] => orderedParts(snapshot).map(({ key }) => key);
const site = (snapshot: Snapshot, change: Partial<Snapshot['site']>): Snapshot => ({
  ...snapshot,
  site: { ...snapshot.site, ...change },
});

describe('a set that comes into another', () => {
  it('replaces what has the same key, adds what is new, and keeps the rest', () => {
    const other = snippet('chat', { parts: [part('body-end', 0, '<script>chat(2)</script>')] });
    const tide = snippet('tide', { parts: [part('body-end', 1, '<script>tide()</script>')] });
    const result = importedSet(BASE, set(other, tide), { removes: false });
    expect(keys(result)).to.deep.equal(['counter', 'chat', 'offer', 'tide']);
    expect(result.snippets[1]!.parts[0]!.code).to.contain('chat(2)');
    expect(order(result)).to.deep.equal(['counter/1', 'chat/1', 'offer/1', 'tide/1']);
  });

  it('removes what it does not have where that is wanted', () => {
    expect(keys(importedSet(BASE, set(chat), { removes: true }))).to.deep.equal(['chat']);
  });

  it('brings its own order, and leaves the others’ where they stood', () => {
    const swapped = set(
      snippet('offer', { parts: [part('body-end', 0, '<script>offer()</script>')] }),
      snippet('tide', { parts: [part('body-end', 1, '<script>tide()</script>')] }),
    );
    expect(order(importedSet(BASE, swapped, { removes: false }))).to.deep.equal([
      'counter/1',
      'chat/1',
      'offer/1',
      'tide/1',
    ]);
  });

  it('changes what the site defines only where it is the site’s own', () => {
    const group = { key: 'shop', name: 'Shop', patterns: ['/shop/*'] };
    const field = { name: 'account', type: 'id' as const, label: 'Account', value: 'TM-1' };
    const here = site(BASE, { timeZone: 'Europe/Dublin', pageGroups: [group], fields: [field] });
    const changed = {
      timeZone: 'UTC',
      name: 'Elsewhere',
      pageGroups: [
        { ...group, patterns: ['/store/*'] },
        { ...group, key: 'news' },
      ],
      fields: [{ ...field, value: 'TM-2' }],
    };
    const own = importedSet(here, site(BASE, changed), { removes: false }).site;
    expect([own.timeZone, own.name, own.fields![0]!.value]).to.deep.equal(['UTC', 'Elsewhere', 'TM-2']);
    expect(own.pageGroups!.map(({ key, patterns }) => [key, patterns[0]])).to.deep.equal([
      ['shop', '/store/*'],
      ['news', '/shop/*'],
    ]);
    const foreign = importedSet(here, site(BASE, { ...changed, key: 'other' }), { removes: true }).site;
    expect([foreign.timeZone, foreign.name, foreign.fields![0]!.value]).to.deep.equal([
      'Europe/Dublin',
      here.site.name,
      'TM-1',
    ]);
    expect(foreign.pageGroups!.map(({ key, patterns }) => [key, patterns[0]])).to.deep.equal([
      ['shop', '/shop/*'],
      ['news', '/shop/*'],
    ]);
  });

  it('does not say since when something is off', () => {
    const since = { at: '2027-01-01T00:00:00.000Z', by: 'ada' };
    const off = { ...chat, state: 'off' as const };
    const result = importedSet(set({ ...off, stateSince: since }), set(off), { removes: false });
    expect(result.snippets[0]!.stateSince).to.deep.equal(since);
    const forged = importedSet(set(chat), set({ ...off, stateSince: since }), { removes: false });
    expect(forged.snippets[0]).not.to.have.property('stateSince');
  });

  const PLACES = ['head-end', 'body-end', 'body-start'] as const;
  const sets = fc
    .uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { maxLength: 5 })
    .chain((names) =>
      fc.tuple(
        fc.constant(names),
        fc.array(fc.tuple(fc.constantFrom(...PLACES), fc.nat(9), fc.nat(3)), {
          minLength: names.length,
          maxLength: names.length,
        }),
      ),
    )
    .map(([names, places]) =>
      set(
        ...names.map((name, i) => {
          const [place, rank, code] = places[i]!;
          return snippet(name, { parts: [part(place, rank, `<script>${name}(${code})</script>`)] });
        }),
      ),
    );

  it('is nothing new where it is the same, and the whole of it where everything else goes', () => {
    fc.assert(
      fc.property(sets, sets, (here, comes) => {
        expect(snapshotDigest(importedSet(here, here, { removes: true }))).to.equal(snapshotDigest(here));
        const all = importedSet(here, comes, { removes: true });
        expect(keys(all).sort()).to.deep.equal(keys(comes).sort());
        expect(order(all)).to.deep.equal(order(comes));
        const merged = importedSet(here, comes, { removes: false });
        expect(difference(merged, importedSet(merged, comes, { removes: false }))).to.deep.equal([]);
        const coming = new Set(keys(comes));
        const others = (keyList: string[]): string[] => keyList.filter((key) => !coming.has(key[0]!));
        expect(others(order(merged))).to.deep.equal(others(order(here)));
      }),
      propertyRuns(300),
    );
  });
});
