import { expect } from 'chai';
import fc from 'fast-check';
import {
  applyChanges,
  draftChanges,
  importedSet,
  undoChanges,
  type DraftChange,
  type Hours,
  type Limits,
  type Snapshot,
  type SnapshotSnippet,
} from '@pragmatica/core';
import { propertyRuns } from '../../support/property-runs.js';
import { part, set, snippet } from '../../support/sets.js';

const NO_CHOICES = {};

/** As a change is kept: as JSON, in which what is undefined is not there. */
const kept = (changes: readonly DraftChange[]): DraftChange[] =>
  JSON.parse(JSON.stringify(changes)) as DraftChange[];

const edited = (of: Snapshot, key: string, change: Partial<SnapshotSnippet>): Snapshot => ({
  ...of,
  snippets: of.snippets.map((one) => (one.key === key ? { ...one, ...change } : one)),
});

const byKey = ({ snippets }: Snapshot): SnapshotSnippet[] =>
  [...snippets].sort((a, b) => (a.key < b.key ? -1 : 1));

/** All but the order in which snippets were added. */
const same = (a: Snapshot, b: Snapshot): void => {
  expect({ ...a, snippets: byKey(a) }).to.deep.equal({ ...b, snippets: byKey(b) });
};

const until = (to: string): Hours => ({ weekly: { mon: [{ from: '09:00', to }] } });
const HOURS = until('17:00');
const CHAT = snippet('chat', { name: 'Harbour chat', parts: [part('head-end', 0, '<script>a</script>')] });
const PIXEL = snippet('pixel', {
  name: 'Pixel',
  parts: [part('head-end', 1, '<script>b</script>'), part('body-end', 0)],
});
const BEFORE = set(CHAT, PIXEL);

describe('undoing a change of the draft', () => {
  it('gives back what there was, and leaves what somebody did elsewhere since', () => {
    const after = edited(BEFORE, 'chat', { state: 'off', note: 'too loud' });
    const now = edited(edited(after, 'pixel', { purpose: 'counts' }), 'chat', { provider: 'Skipper' });
    const { target, conflicts } = undoChanges(now, draftChanges(BEFORE, after));
    expect(conflicts).to.deep.equal([]);
    same(target, edited(edited(BEFORE, 'pixel', { purpose: 'counts' }), 'chat', { provider: 'Skipper' }));
  });

  it('leaves what was changed again, and tells both, until somebody chooses', () => {
    const after = edited(BEFORE, 'chat', { limits: { hours: HOURS }, note: 'opening hours' });
    const now = edited(after, 'chat', { limits: { hours: until('12:00') } });
    const changes = draftChanges(BEFORE, after);
    const { target, conflicts } = undoChanges(now, changes);
    expect(conflicts).to.have.length(1);
    expect(conflicts[0]).to.include({ id: 'chat/limits/hours', what: '“Harbour chat”: hours' });
    expect(conflicts[0]!.now).to.contain('12:00');
    expect(conflicts[0]!.before).to.equal('nothing');
    same(target, edited(now, 'chat', { note: '' }));
    const chosen = undoChanges(now, changes, { 'chat/limits/hours': 'before' });
    same(chosen.target, BEFORE);
    same(undoChanges(now, changes, { 'chat/limits/hours': 'now' }).target, target);
  });

  it('keeps limits of other kinds that came since', () => {
    const after = edited(BEFORE, 'chat', { limits: { hours: HOURS } });
    const now = edited(after, 'chat', { limits: { hours: HOURS, devices: ['phone'] } });
    const { target, conflicts } = undoChanges(now, draftChanges(BEFORE, after));
    expect(conflicts).to.deep.equal([]);
    same(target, edited(BEFORE, 'chat', { limits: { devices: ['phone'] } }));
  });

  it('brings a removed snippet back, and takes an added one out', () => {
    const without = set(PIXEL);
    same(undoChanges(without, draftChanges(BEFORE, without)).target, BEFORE);
    same(undoChanges(BEFORE, draftChanges(without, BEFORE)).target, without);
  });

  it('asks before it takes out what somebody has worked on since it was added', () => {
    const now = edited(BEFORE, 'chat', { note: 'mine' });
    const changes = draftChanges(set(PIXEL), BEFORE);
    const { target, conflicts } = undoChanges(now, changes);
    same(target, now);
    expect(conflicts).to.deep.equal([
      { id: 'chat', what: '“Harbour chat”', now: 'changed since it was added', before: 'not there' },
    ]);
    same(undoChanges(now, changes, { chat: 'before' }).target, set(PIXEL));
  });

  it('asks before it brings back what another of this key has replaced', () => {
    const now = set({ ...CHAT, name: 'Another chat' }, PIXEL);
    const { target, conflicts } = undoChanges(now, draftChanges(BEFORE, set(PIXEL)));
    same(target, now);
    expect(conflicts.map(({ id }) => id)).to.deep.equal(['chat']);
  });

  it('says which snippets are gone since, and does not bring them back', () => {
    const after = edited(BEFORE, 'chat', { note: 'x' });
    const { target, gone, conflicts } = undoChanges(set(PIXEL), draftChanges(BEFORE, after));
    expect({ gone, conflicts }).to.deep.equal({ gone: ['chat'], conflicts: [] });
    same(target, set(PIXEL));
  });

  it('puts an order back as a whole, or asks', () => {
    const head = { placement: 'head-end' as const, parts: ['pixel/1', 'chat/1'] };
    const after = applyChanges(BEFORE, [{ kind: 'arrange', lists: [head], moved: [] }]);
    const changes = draftChanges(BEFORE, after);
    // One that came since stays last.
    const late = snippet('late', { parts: [part('head-end', 2)] });
    same(undoChanges({ ...after, snippets: [...after.snippets, late] }, changes).target, {
      ...BEFORE,
      snippets: [...BEFORE.snippets, late],
    });
    const now = edited(after, 'chat', { parts: [{ ...CHAT.parts[0]!, rank: 7 }] });
    const { target, conflicts } = undoChanges(now, changes);
    expect(conflicts.map(({ id }) => id)).to.deep.equal(['order']);
    same(target, now);
    same(undoChanges(now, changes, { order: 'before' }).target, BEFORE);
  });

  it('treats parts as a whole where one was added or taken out', () => {
    const after = edited(BEFORE, 'pixel', { parts: [PIXEL.parts[0]!] });
    same(undoChanges(after, draftChanges(BEFORE, after)).target, BEFORE);
    const now = edited(after, 'pixel', { parts: [{ ...PIXEL.parts[0]!, code: '<script>c</script>' }] });
    const { conflicts } = undoChanges(now, draftChanges(BEFORE, after));
    expect(conflicts).to.deep.equal([
      { id: 'pixel/parts', what: '“Pixel”: code', now: '1 part', before: '2 parts' },
    ]);
  });

  it('undoes what a site defines, one field and one page group at a time', () => {
    const field = (value: string) => ({ name: 'phone', label: 'Phone', type: 'text' as const, value });
    const withFields = (of: Snapshot, ...values: string[]): Snapshot => ({
      ...of,
      site: { ...of.site, fields: values.map((value) => ({ ...field(value), name: value })) },
    });
    const before = withFields(BEFORE, 'a', 'b');
    const after = withFields(BEFORE, 'a');
    const now = withFields(BEFORE, 'a', 'c');
    const { target, conflicts } = undoChanges(now, draftChanges(before, after));
    expect(conflicts).to.deep.equal([]);
    expect(target.site.fields!.map(({ name }) => name)).to.deep.equal(['a', 'c', 'b']);
    same(undoChanges(before, draftChanges(BEFORE, before)).target, BEFORE);
  });

  describe('for any two sets', () => {
    const keys = fc.constantFrom('a', 'b', 'c', 'd');
    const parts = fc.array(
      fc.record({
        placement: fc.constantFrom('head-start' as const, 'head-end' as const, 'body-end' as const),
        rank: fc.nat(5),
        code: fc.constantFrom('', '<script>1</script>', '<script>2</script>'),
      }),
      { maxLength: 3 },
    );
    const snippets = fc
      .uniqueArray(
        fc.record({
          key: keys,
          name: fc.constantFrom('One', 'Two'),
          note: fc.constantFrom('', 'note'),
          state: fc.constantFrom('on' as const, 'off' as const),
          limits: fc.constantFrom<Limits>({}, { hours: HOURS }, { devices: ['phone'] }),
          parts,
        }),
        { selector: ({ key }) => key },
      )
      .map((found) =>
        set(
          ...found.map(({ key, limits, ...rest }) =>
            snippet(key, { ...rest, ...(Object.keys(limits).length > 0 ? { limits } : {}) }),
          ),
        ),
      );

    it('gives the one before, from the one after, as it is kept and read again', () => {
      fc.assert(
        fc.property(snippets, snippets, (before, after) => {
          const { target, conflicts } = undoChanges(after, kept(draftChanges(before, after)));
          expect(conflicts).to.deep.equal([]);
          same(target, before);
        }),
        propertyRuns(300),
      );
    });

    it('changes nothing where it was undone already, and never what it was not about', () => {
      fc.assert(
        fc.property(snippets, snippets, snippets, (before, after, now) => {
          const changes = draftChanges(before, after);
          const once = undoChanges(now, changes, NO_CHOICES).target;
          same(undoChanges(once, changes).target, once);
          const touched = new Set(changes.map(({ key }) => key));
          expect(byKey(once).filter(({ key }) => !touched.has(key))).to.deep.equal(
            byKey(now).filter(({ key }) => !touched.has(key)),
          );
        }),
        propertyRuns(300),
      );
    });

    it('gives the one before where everything is chosen so, if the same snippets are there', () => {
      fc.assert(
        fc.property(snippets, snippets, (before, after) => {
          const changes = draftChanges(before, after);
          const now = importedSet(after, edited(after, 'a', { note: 'since' }), { removes: false });
          const { conflicts } = undoChanges(now, changes);
          const all = Object.fromEntries(conflicts.map(({ id }) => [id, 'before' as const]));
          const { target } = undoChanges(now, changes, all);
          for (const { key } of changes) {
            const was = before.snippets.find((one) => one.key === key);
            const is = target.snippets.find((one) => one.key === key);
            if (key !== 'a') expect(is).to.deep.equal(was);
          }
        }),
        propertyRuns(200),
      );
    });
  });
});
