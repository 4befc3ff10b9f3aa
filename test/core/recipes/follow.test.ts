import { expect } from 'chai';
import fc from 'fast-check';
import {
  applyRecipe,
  exampleRecipe,
  filledSnapshot,
  followRecipe,
  withSnippet,
  siteNames,
  type Followed,
  type Recipe,
  type Snapshot,
} from '@pragmatica/core';
import { propertyRuns } from '../../support/property-runs.js';
import { part, set, snippet } from '../../support/sets.js';

const CHAT: Recipe = exampleRecipe('chat', 'Chat', {
  parts: [
    {
      key: 'settings',
      placement: 'head-end',
      required: true,
      code: "<script>\n  window.talk = { room: '@{room}', greeting: '@{greeting}' };\n</script>",
      statement: 'Into the head.',
    },
    {
      key: 'loader',
      placement: 'body-end',
      required: true,
      code: '<script async src="https://talk.example/@{room}/t.js"></script>',
    },
    { key: 'frame', placement: 'body-start', required: false, code: '<noscript>@{greeting}</noscript>' },
  ],
  fields: [
    { name: 'room', type: 'id', label: 'Room' },
    { name: 'greeting', type: 'text', label: 'Greeting' },
  ],
});

const pasted = (...codes: string[]): Snapshot =>
  set(snippet('talk', { parts: codes.map((code, rank) => part('head-end', rank, code)) }));
const follow = (draft: Snapshot, recipe = CHAT) => followRecipe(recipe, draft.snippets[0]!, siteNames(draft));
const problem = (...codes: string[]): string | undefined => {
  const result = follow(pasted(...codes));
  return 'problem' in result ? result.problem : undefined;
};
const LOADER = '<script async src="https://talk.example/quay/t.js"></script>';

describe('letting pasted code follow a recipe', () => {
  it('makes fields of its values, white space as it is, and takes the provider’s words', () => {
    const code = "<script>window.talk = { room: 'quay', greeting: 'Ask us' };</script>";
    const result = follow(pasted(LOADER, code.replace('>w', '>\n w').replace(';<', ';\n\n<'))) as Followed;
    expect(result.fields).to.deep.equal([
      { name: 'room', type: 'id', label: 'Room', value: 'quay' },
      { name: 'greeting', type: 'text', label: 'Greeting', value: 'Ask us' },
    ]);
    expect(result.parts.map(({ code: own, statement }) => [own, statement])).to.deep.equal([
      ['<script async src="https://talk.example/@{room}/t.js"></script>', undefined],
      [
        "<script>\n window.talk = { room: '@{room}', greeting: '@{greeting}' };\n\n</script>",
        'Into the head.',
      ],
    ]);
  });

  it('is refused with what differs', () => {
    const settings = "<script>\n window.talk = { room: 'quay', greeting: 'Ask' };\n</script>";
    expect(problem(LOADER)).to.equal('The piece “settings” of “Chat” is missing.');
    expect(problem(LOADER, settings.replace(' };', ', colour: 1 };'))).to.equal(
      'Its code is not what the piece “settings” of “Chat” says.',
    );
    expect(problem(LOADER.replace('quay', 'pier'), settings)).to.equal(
      'It has two values for one field: “quay” and “pier”.',
    );
    expect(problem(LOADER.replace('quay', 'a b'), settings.replace('quay', 'a b'))).to.equal(
      '“Room” cannot be “a b”.',
    );
    expect(problem(LOADER, settings.replace('Ask', 'Ask \\x41'))).to.equal(
      'A value in its code is written differently from how a field would write it.',
    );
  });

  it('takes the site’s own fields where they stand there already', () => {
    const draft = pasted(
      '<script async src="https://talk.example/@{our_room}/t.js"></script>',
      "<script>\n window.talk = { room: '@{our_room}', greeting: 'Ask' };\n</script>",
    );
    const field = { name: 'our_room', type: 'id', label: 'Ours', value: 'quay' } as const;
    const result = follow({ ...draft, site: { ...draft.site, fields: [field] } }) as Followed;
    expect(result.names).to.deep.equal({ room: 'our_room', greeting: 'greeting' });
    expect(result.fields[0]).to.deep.equal(field);
  });

  it('leaves fields of the site alone, which may have other values on staging', () => {
    const draft = pasted(LOADER, "<script>\n window.talk = { room: 'quay', greeting: 'Ask' };\n</script>");
    const room = { name: 'room', type: 'id', label: 'Room', value: 'x', staging: 'y' } as const;
    const result = follow({ ...draft, site: { ...draft.site, fields: [room] } }) as Followed;
    expect(result.names['room']).to.equal('talk_room');
    expect(result.fields[0]).to.deep.equal(room);
  });

  it('gives what applying gave, and changes nothing that visitors get', () => {
    const text = fc.string({ maxLength: 20 }).filter((value) => /^[^\p{Cc}]*$/u.test(value) && value !== '');
    const id = fc.stringMatching(/^[\w.:/-]{1,10}$/);
    let followed = 0;
    fc.assert(
      fc.property(id, text, (room, greeting) => {
        const values = [
          { name: 'room', value: room },
          { name: 'greeting', value: greeting },
        ];
        const made = applyRecipe(CHAT, siteNames(set()), { key: 'talk', name: 'Talk', values });
        const base = set();
        const applied = withSnippet({ ...base, site: { ...base.site, fields: made.fields } }, made.snippet);
        const { recipe: _, ...byHand } = filledSnapshot(applied, 'live').snippets[0]!;
        const draft = set(byHand);
        const result = followRecipe(CHAT, byHand, siteNames(draft));
        // Values that are escaped where they stand are left alone: how somebody else writes them nobody knows.
        if ('problem' in result) return;
        followed++;
        const again = { ...draft, site: { ...draft.site, fields: result.fields } };
        const parts = filledSnapshot({ ...again, snippets: [{ ...byHand, parts: result.parts }] }, 'live');
        expect(parts.snippets[0]!.parts.map(({ code }) => code)).to.deep.equal(
          byHand.parts.map(({ code }) => code),
        );
        expect(result.fields).to.deep.equal(made.fields);
      }),
      propertyRuns(200),
    );
    expect(followed).to.be.greaterThan(20);
  });
});
