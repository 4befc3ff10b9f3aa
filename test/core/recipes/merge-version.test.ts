import { expect } from 'chai';
import fc from 'fast-check';
import {
  applyRecipe,
  mergeVersion,
  exampleRecipe,
  recipeDifference,
  withSnippet,
  siteNames,
  type Placement,
  type Recipe,
  type RecipePart,
  type Snapshot,
  type SnapshotSnippet,
} from '@pragmatica/core';
import { propertyRuns } from '../../support/property-runs.js';
import { set } from '../../support/sets.js';

const piece = (key: string, code: string, placement: Placement = 'body-end'): RecipePart => ({
  key,
  placement,
  code,
  required: true,
});
const loader = (query: string): RecipePart =>
  piece('loader', `<script async src="https://parlanook.example/chat.js${query}"></script>`);

const FIRST = exampleRecipe('parlanook-chat', 'Parlanook chat', {
  parts: [
    piece('settings', "<script>window.parlanook = { room: '@{room}' };</script>", 'head-end'),
    loader(''),
  ],
  fields: [{ name: 'room', type: 'id', label: 'Room', example: 'your-room' }],
});
const SECOND: Recipe = { ...FIRST, version: 2, parts: [FIRST.parts[0]!, loader('?v=2')] };

/** A site on which the recipe is installed, its key already taken by another field. */
function installed(recipe: Recipe): Snapshot {
  const { snippet, fields } = applyRecipe(recipe, siteNames(set()), {
    key: 'chat',
    name: 'Chat',
    values: [{ name: 'room', value: 'harbour' }],
  });
  const base = set();
  return withSnippet({ ...base, site: { ...base.site, fields } }, snippet);
}

const edited = (snapshot: Snapshot, change: Partial<SnapshotSnippet>): Snapshot => ({
  ...snapshot,
  snippets: snapshot.snippets.map((snippet) => ({ ...snippet, ...change })),
});
const codes = ({ parts }: { parts: readonly { code: string }[] }): string[] => parts.map(({ code }) => code);

describe('bringing an install up to a newer version', () => {
  it('takes what the recipe changed, and links to the version', () => {
    const draft = installed(FIRST);
    const { snippet, replaced } = mergeVersion(draft.snippets[0]!, FIRST, SECOND, siteNames(draft));
    expect(codes(snippet)).to.deep.equal([
      "<script>window.parlanook = { room: '@{room}' };</script>",
      '<script async src="https://parlanook.example/chat.js?v=2"></script>',
    ]);
    expect(snippet.recipe).to.deep.equal({ key: 'parlanook-chat', version: 2, fields: { room: 'room' } });
    expect(replaced).to.deep.equal([]);
  });

  it('keeps what people changed and the recipe did not', () => {
    const before = installed(FIRST);
    const [settings, script] = before.snippets[0]!.parts;
    const own = { placement: 'body-start' as const, rank: 0, code: '<p>Ask us</p>' };
    const draft = edited(before, {
      name: 'Harbour chat',
      pages: { include: [], exclude: ['/fares'] },
      parts: [{ ...settings!, code: '<script>window.parlanook = { room: "quay" };</script>' }, script!, own],
    });
    const { snippet, replaced } = mergeVersion(draft.snippets[0]!, FIRST, SECOND, siteNames(draft));
    expect([snippet.name, snippet.pages.exclude]).to.deep.equal(['Harbour chat', ['/fares']]);
    expect(codes(snippet)).to.deep.equal([
      '<script>window.parlanook = { room: "quay" };</script>',
      '<script async src="https://parlanook.example/chat.js?v=2"></script>',
      '<p>Ask us</p>',
    ]);
    expect(replaced).to.deep.equal([]);
  });

  it('brings how often a part runs, and keeps what the site says of it where the recipe says nothing new', () => {
    const perView: Recipe = { ...SECOND, parts: [SECOND.parts[0]!, { ...SECOND.parts[1]!, per: 'view' }] };
    const pers = ({ parts }: SnapshotSnippet): unknown[] => parts.map(({ per }) => per);
    expect(pers(installed(perView).snippets[0]!)).to.deep.equal([undefined, 'view']);
    const draft = installed(FIRST);
    const renewed = mergeVersion(draft.snippets[0]!, FIRST, perView, siteNames(draft)).snippet;
    expect(renewed.parts.map(({ per }) => per)).to.deep.equal([undefined, 'view']);
    const [settings, script] = draft.snippets[0]!.parts;
    const own = edited(draft, { parts: [{ ...settings!, per: 'view' }, script!] });
    const kept = mergeVersion(own.snippets[0]!, FIRST, SECOND, siteNames(own)).snippet;
    expect(kept.parts.map(({ per }) => per)).to.deep.equal(['view', undefined]);
  });

  it('tells what people changed where the recipe changes it, too', () => {
    const before = installed(FIRST);
    const [settings, script] = before.snippets[0]!.parts;
    const draft = edited(before, {
      parts: [settings!, { ...script!, placement: 'head-end', code: `${script!.code}<!-- ours -->` }],
    });
    const moved: Recipe = {
      ...SECOND,
      parts: [SECOND.parts[0]!, { ...SECOND.parts[1]!, placement: 'body-start' }],
    };
    const { snippet, replaced } = mergeVersion(draft.snippets[0]!, FIRST, moved, siteNames(draft));
    expect(snippet.parts[1]).to.deep.include({
      placement: 'body-start',
      code: '<script async src="https://parlanook.example/chat.js?v=2"></script>',
    });
    expect(replaced).to.deep.equal([
      'The code at the end of the head was changed by hand; the recipe’s new code takes its place.',
      'The part at the end of the head was moved by hand; the recipe wants it at the start of the body.',
    ]);
  });

  it('adds pieces and fields that are new, and takes those away that are gone', () => {
    const draft = installed(FIRST);
    const next: Recipe = {
      ...SECOND,
      parts: [loader('?lang=@{language}'), piece('place', '<div id="parlanook-place"></div>')],
      fields: [{ name: 'language', type: 'text', label: 'Language', default: 'en' }],
    };
    const { snippet, fields } = mergeVersion(draft.snippets[0]!, FIRST, next, siteNames(draft));
    expect(codes(snippet)).to.deep.equal([
      '<script async src="https://parlanook.example/chat.js?lang=@{language}"></script>',
      '<div id="parlanook-place"></div>',
    ]);
    expect(fields.map(({ name, value }) => [name, value])).to.deep.equal([
      ['room', 'harbour'],
      ['language', 'en'],
    ]);
  });

  it('renews what a field is called and its example, but not what people have called it', () => {
    const draft = installed(FIRST);
    const next: Recipe = {
      ...SECOND,
      fields: [{ name: 'room', type: 'text', label: 'Room at Parlanook', example: 'a-room' }],
    };
    const event = mergeVersion(draft.snippets[0]!, FIRST, next, siteNames(draft)).fields;
    expect(event).to.deep.equal([
      { name: 'room', type: 'text', label: 'Room at Parlanook', example: 'a-room', value: 'harbour' },
    ]);
    const [room] = draft.site.fields!;
    const named = { ...draft, site: { ...draft.site, fields: [{ ...room!, label: 'Our room' }] } };
    expect(mergeVersion(named.snippets[0]!, FIRST, next, siteNames(named)).fields[0]!.label).to.equal(
      'Our room',
    );
  });

  it('leaves a piece out that somebody took out, unless the recipe has changed it', () => {
    const before = installed(FIRST);
    const draft = edited(before, { parts: [before.snippets[0]!.parts[0]!] });
    const same: Recipe = { ...FIRST, version: 2, changes: 'Nothing in the code.' };
    expect(mergeVersion(draft.snippets[0]!, FIRST, same, siteNames(draft)).snippet.parts).to.have.length(1);
    expect(mergeVersion(draft.snippets[0]!, FIRST, SECOND, siteNames(draft)).snippet.parts).to.have.length(2);
  });

  const word = fc.stringMatching(/^[a-z]{1,6}$/);
  const parts = fc
    .uniqueArray(fc.tuple(word, word, fc.constantFrom<Placement>('head-end', 'body-start', 'body-end')), {
      selector: ([key]) => key,
      minLength: 1,
      maxLength: 4,
    })
    .map((all) =>
      all.map(([key, text, placement]) => piece(key, `<i data-${key}="${text}"></i>`, placement)),
    );

  it('gives what applying the newer version gives, where nobody changed anything', () => {
    fc.assert(
      fc.property(parts, parts, (old, next) => {
        const from = { ...FIRST, fields: [], parts: old };
        const to = { ...from, version: 2, parts: next };
        const draft = installed(from);
        const { snippet, replaced } = mergeVersion(draft.snippets[0]!, from, to, siteNames(draft));
        const fresh = installed(to).snippets[0]!;
        expect(snippet.parts).to.deep.equal(fresh.parts.map(({ rank: _, ...part }) => part));
        expect(replaced).to.deep.equal([]);
      }),
      propertyRuns(200),
    );
  });

  it('gives what people made of it, where the recipe changed nothing', () => {
    fc.assert(
      fc.property(parts, parts, (old, own) => {
        const from = { ...FIRST, fields: [], parts: old };
        const to = { ...from, version: 2 };
        const before = installed(from);
        // Code that is none of the recipe's pieces, behind those that are.
        const more = own.map(({ code, placement }, rank) => ({ code: `<b>${code}</b>`, placement, rank }));
        const draft = edited(before, { parts: [...before.snippets[0]!.parts, ...more] });
        const { snippet, replaced } = mergeVersion(draft.snippets[0]!, from, to, siteNames(draft));
        expect(codes(snippet)).to.deep.equal(codes(draft.snippets[0]!));
        expect(replaced).to.deep.equal([]);
      }),
      propertyRuns(200),
    );
  });
});

describe('what differs between two versions of a recipe', () => {
  it('is said in sentences', () => {
    const next: Recipe = {
      ...SECOND,
      changes: 'It loads later.',
      after: ['biscuitkeel-question'],
      repeatable: true,
      floats: 'left',
      parts: [
        { ...FIRST.parts[1]!, placement: 'body-start', code: '<i></i>' },
        piece('place', '<div></div>'),
      ],
      fields: [{ name: 'language', type: 'text', label: 'Language' }],
      steps: [{ key: 'list', per: 'site', title: 'Put it on the list', open: 'it is not on the list' }],
      recognise: { hosts: ['parlanook.example'], addresses: [], globals: [] },
      retired: { reason: 'Nobody answers any more.' },
    };
    expect(recipeDifference(FIRST, next)).to.deep.equal([
      'It loads later.',
      'It is retired: Nobody answers any more.',
      'The part “loader” has new code.',
      'The part “loader” goes at the start of the body; before, at the end of the body.',
      'The part “place” is new, at the end of the body.',
      'The part “settings” is gone.',
      'It asks for language.',
      'It no longer asks for room.',
      'There is a new step at the provider: Put it on the list.',
      'Must come before it: biscuitkeel-question.',
      'It can be on a page more than once.',
      'It floats at the left.',
      'It is recognised by other addresses or names.',
    ]);
    expect(recipeDifference(next, FIRST).slice(-4)).to.deep.equal([
      'No longer has to come before it: biscuitkeel-question.',
      'It can be on a page only once.',
      'It no longer floats over the page.',
      'It is recognised by other addresses or names.',
    ]);
    expect(recipeDifference(next, FIRST)).to.include('A step at the provider is gone: Put it on the list.');
    const loose = { ...FIRST, version: 2, parts: FIRST.parts.map((one) => ({ ...one, required: false })) };
    expect(recipeDifference(FIRST, loose)).to.deep.equal([
      'The part “settings” may be left out.',
      'The part “loader” may be left out.',
    ]);
    expect(recipeDifference(FIRST, { ...FIRST, version: 2 })).to.deep.equal([]);
  });
});
