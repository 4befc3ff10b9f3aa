import {
  WRITTEN,
  catalogue,
  hasDeferred,
  listWords,
  momentWords,
  sayAllDeferred,
  sayIn,
  sayDeferred,
  dateWords,
  type Translation,
} from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { propertyRuns } from '../support/property-runs.js';
import { spoken } from '../support/speech.js';

const TEXTS = catalogue('test.kept', {
  bare: 'It’s there',
  braces: 'Write it like {field}',
  counted: '{count, plural, one {# page} other {# pages}}',
  about: '“{name}” is on {pages}: {because}',
  nested: { deep: ['first', 'second'] },
});

const GERMAN: Translation = {
  tag: 'de',
  texts: {
    'test.kept': {
      bare: 'Es ist da',
      braces: 'Schreiben Sie {field}',
      counted: '{count, plural, one {# Seite} other {# Seiten}}',
      about: '„{name}“ ist auf {pages}: {because}',
      nested: { deep: ['erstens', 'zweitens'] },
    },
  },
};

const say = sayIn('en-GB');
const keep = <T>(work: () => T): T => spoken('deferred', work);
const inGerman = (kept: string): string => spoken(GERMAN, () => sayDeferred(kept));

describe('words that are kept', () => {
  it('are said later, to each reader in their language', () => {
    const kept = keep(() =>
      say(TEXTS.about, { name: 'Chat', pages: say(TEXTS.counted, { count: 2 }), because: TEXTS.bare }),
    );
    expect(hasDeferred(kept)).to.equal(true);
    expect(sayDeferred(kept)).to.equal('“Chat” is on 2 pages: It’s there');
    expect(inGerman(kept)).to.equal('„Chat“ ist auf 2 Seiten: Es ist da');
  });

  it('are kept beside others in one text, and in lists and lists in data', () => {
    const kept = keep(() => ({
      line: `- ${TEXTS.bare} (${TEXTS.nested.deep[1]})`,
      list: listWords([TEXTS.bare, 'a', say(TEXTS.counted, { count: 1 })]),
      of: [{ what: TEXTS.bare, count: 3, nothing: null }],
    }));
    expect(spoken(GERMAN, () => sayAllDeferred(kept))).to.deep.equal({
      line: '- Es ist da (zweitens)',
      list: 'Es ist da, a und 1 Seite',
      of: [{ what: 'Es ist da', count: 3, nothing: null }],
    });
  });

  it('say dates and moments as each reader writes them', () => {
    const at = Date.UTC(2027, 2, 31, 15, 0);
    const kept = keep(() => `${dateWords('2027-03-31')}; ${momentWords(at, 'Europe/London')}`);
    expect(sayDeferred(kept)).to.equal('31 March 2027; Wednesday 31 March 2027, 16:00');
    expect(inGerman(kept)).to.equal('31. März 2027; Mittwoch 31. März 2027, 16:00');
  });

  it('tell a text with braces of its own from one that is filled in', () => {
    expect(inGerman(keep(() => TEXTS.braces))).to.equal('Schreiben Sie {field}');
    expect(inGerman(keep(() => say(TEXTS.braces, { field: 'x' })))).to.equal('Schreiben Sie x');
  });

  it('stay as they are where words are kept, and hold for what is not translated', () => {
    const kept = keep(() => TEXTS.bare);
    expect(keep(() => sayDeferred(kept))).to.equal(kept);
    expect(spoken({ tag: 'cy', texts: {} }, () => sayDeferred(kept))).to.equal('It’s there');
    expect(spoken(WRITTEN, () => sayDeferred('no text of ours'))).to.equal('no text of ours');
  });

  it('are the same as if they had been said at once, whatever is filled in', () => {
    const text = fc.string({ unit: 'grapheme', maxLength: 20 }).filter((one) => !hasDeferred(one));
    fc.assert(
      fc.property(text, fc.nat(5_000), fc.array(text, { maxLength: 4 }), (name, count, list) => {
        const sentence = (): string =>
          say(TEXTS.about, { name, pages: say(TEXTS.counted, { count }), because: listWords(list) });
        expect(inGerman(keep(sentence))).to.equal(spoken(GERMAN, sentence));
      }),
      propertyRuns(200),
    );
  });

  it('are refused where nobody wrote them that way', () => {
    const end = '\uFDD1';
    const begin = '\uFDD0';
    const wrong = [
      `${begin}test.kept/bare`,
      `${begin}test.kept/gone${end}`,
      `${begin}test.kept/nested${end}`,
      `${begin}__proto__/toString${end}`,
      `${begin}test.kept/about\uFDD2{"name":${end}`,
      `${begin}test.kept/about\uFDD2{}${end}`,
      begin.repeat(100_000),
    ];
    for (const text of wrong) expect(() => sayDeferred(text), JSON.stringify(text.slice(0, 40))).to.throw();
    // In one pass, however many begin and none ends.
    const many = `${begin}test.kept/bare${end}`.repeat(50_000);
    expect(sayDeferred(many)).to.have.length('It’s there'.length * 50_000);
  });
});
