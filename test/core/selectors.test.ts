import {
  ANCHOR_SIDES,
  SelectorError,
  anchorName,
  anchorSelector,
  anchorText,
  insert,
  normalSelector,
  parseSelector,
  placementWords,
  readAnchor,
  selectorText,
  type AnchorSide,
  type SelectorStep,
} from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { propertyRuns } from '../support/property-runs.js';

const at = (html: string, selector: string, side: AnchorSide, code = '<script>1</script>') => {
  const { page, outcomes } = insert(html, [{ key: 'p', placement: readAnchor(selector, side), code }]);
  const [outcome] = outcomes;
  return outcome!.inserted ? Buffer.from(page).toString() : outcome!.reason;
};

describe('a selector', () => {
  it('is kept in one form', () => {
    const forms: readonly (readonly [string, string])[] = [
      ['MAIN>P', 'main > p'],
      ['main   p.lead', 'main p.lead'],
      [' #a ', '#a'],
      ['p:first-child', 'p:nth-child(1)'],
      ['ul > li:first-of-type', 'ul > li:nth-of-type(1)'],
      ['[Data-Slot=top]', '[data-slot="top"]'],
      ['div:nth-child(+2)', 'div:nth-child(2)'],
    ];
    for (const [typed, kept] of forms) {
      expect(normalSelector(typed), typed).to.equal(kept);
      expect(normalSelector(kept), kept).to.equal(kept);
    }
  });

  it('that cannot be decided while a page goes by says what of it, and what to use', () => {
    const faults: readonly (readonly [string, RegExp])[] = [
      ['p:hover', /“:hover” cannot be used here/],
      ['div:has(p)', /“:has”/],
      ['li:last-child', /“:last-child”/],
      ['li:nth-child(2n+1)', /“:nth-child”/],
      ['li:nth-child(0)', /“:nth-child”/],
      ['h1 + p', /“\+”/],
      ['h1 ~ p', /“~”/],
      ['p::before', /“::before”/],
      ['a, b', /Name one element/],
      ['.x:nth-of-type(2)', /Write the element’s name before :nth-of-type/],
      ['> p', /not a selector/],
      ['p >', /not a selector/],
      ['', /not a selector/],
      ['p[', /not a selector/],
      ['p '.repeat(17).trim(), /500 characters and 16 elements/],
      ['p'.repeat(501), /500 characters and 16 elements/],
    ];
    for (const [text, message] of faults)
      expect(() => parseSelector(text), text).to.throw(SelectorError, message);
  });

  it('is told from an id: one word alone is an id', () => {
    expect(readAnchor('booking', 'inside')).to.deep.equal({ anchor: 'booking', side: 'inside' });
    expect(readAnchor('#booking', 'after')).to.deep.equal({ anchor: 'booking', side: 'after' });
    expect(readAnchor('#a\\.b', 'after')).to.deep.equal({ anchor: 'a.b', side: 'after' });
    expect(readAnchor('.booking', 'after')).to.deep.equal({ selector: '.booking', side: 'after' });
    expect(readAnchor('main > p', 'before')).to.deep.equal({ selector: 'main > p', side: 'before' });
    expect(anchorName({ anchor: 'a.b', side: 'inside' })).to.equal('#a\\.b');
    expect(anchorName({ anchor: '1-a é', side: 'inside' })).to.equal('#\\31 -a\\ é');
    expect(readAnchor('#\\31 -a\\ é', 'inside')).to.deep.equal({ anchor: '1-a é', side: 'inside' });
    expect(placementWords(readAnchor('main > p', 'inside-end'))).to.equal(
      'at the end of the element main > p',
    );
  });
});

describe('a selector as text', () => {
  const name = fc
    .string({ unit: 'grapheme', minLength: 1, maxLength: 6 })
    .filter((text) => !text.includes('\0'));
  const step = fc
    .tuple(
      fc.constantFrom(undefined, 'p', 'x-card', 'h1'),
      fc.array(
        fc.oneof(
          name
            .filter((text) => !/\s/.test(text))
            .map((value) => ({ name: 'class', kind: 'word', value, folds: 'in-quirks' }) as const),
          name.map((value) => ({ name: 'id', kind: 'equals', value, folds: 'in-quirks' }) as const),
          fc
            .tuple(
              fc.constantFrom('data-x', 'title'),
              fc.constantFrom('equals', 'word', 'hyphen', 'start', 'end', 'any'),
              name,
            )
            .map(([attribute, kind, value]) => ({ name: attribute, kind, value, folds: 'never' }) as const),
        ),
        { maxLength: 3 },
      ),
      fc.option(fc.integer({ min: 1, max: 99 }), { nil: undefined }),
      fc.option(fc.integer({ min: 1, max: 99 }), { nil: undefined }),
      fc.boolean(),
    )
    .map(([type, tests, child, ofType, isChild]): SelectorStep => ({
      ...{ isChild, type, tests, child },
      ofType: type === undefined ? undefined : ofType,
    }));

  it('is read back as it was, whatever its names are', () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 4 }), (steps) => {
        const selector = steps.map((one, index) => ({ ...one, isChild: index > 0 && one.isChild }));
        const text = selectorText(selector);
        expect(parseSelector(text), text).to.deep.equal(selector);
        expect(normalSelector(text)).to.equal(text);
      }),
      propertyRuns(1500),
    );
  });

  it('names any element that a placement names, and is told from an id where it is none', () => {
    fc.assert(
      fc.property(name, fc.constantFrom(...ANCHOR_SIDES), (id, side) => {
        const placement = { anchor: id, side };
        if (id.trim() === id && !/^\s|\s$/.test(id))
          expect(readAnchor(anchorText(placement), side)).to.deep.equal(placement);
        expect(parseSelector(anchorName(placement))[0]!.tests[0]).to.include({ name: 'id', value: id });
        // By an id the letters count in every page.
        expect(anchorSelector(placement)[0]!.tests[0]!.folds).to.equal('never');
      }),
      propertyRuns(1500),
    );
  });
});

describe('at an element', () => {
  it('code stands at each of its sides', () => {
    const page = '<!doctype html><body><main><p class="a">1<p>2</main><div>3</div>';
    expect(at(page, 'main > p:nth-of-type(2)', 'before', '<b>x</b>')).to.include('1</p><b>x</b><p>2');
    expect(at(page, '.a', 'inside', '<b>x</b>')).to.include('<p class="a"><b>x</b>1');
    expect(at(page, '.a', 'inside-end', '<b>x</b>')).to.include('1<b>x</b><p>2');
    expect(at(page, '.a', 'after', '<i>x</i>')).to.include('1</p><i>x</i><p>2');
    expect(at(page, 'body main', 'after', '<i>x</i>')).to.include('</main><i>x</i><div>');
    expect(at(page, 'body main', 'inside-end', '<i>x</i>')).to.include('2</p><i>x</i></main>');
    expect(at(page, 'body > div', 'after', '<i>x</i>')).to.match(/<\/div><i>x<\/i>$/);
  });

  it('code stands behind what has no content, and in the head only where it may', () => {
    const page = '<head><meta name="viewport" content="x"><title>t</title></head><body><img class=i>y';
    expect(at(page, 'img.i', 'after')).to.include('<img class=i><script>');
    expect(at(page, 'img.i', 'inside-end')).to.equal('anchor-refused');
    expect(at(page, '[name=viewport]', 'after', '<meta name="a">')).to.include('content="x"><meta name="a">');
    expect(at(page, '[name=viewport]', 'after', '<p>a</p>')).to.equal('anchor-refused');
    expect(at(page, 'head title', 'before', '<div></div>')).to.equal('anchor-refused');
  });

  it('code is refused where it would stand elsewhere, or change the page', () => {
    const refused: readonly (readonly [string, string, AnchorSide])[] = [
      ['<body><b class=x>a<div>b</b>c</div>', '.x', 'after'],
      ['<body><table class=t><tr><td>1</table>', '.t', 'inside-end'],
      ['<body><div class=x>a', 'html body', 'after'],
      ['<body><svg><g class=x></g></svg>', '.x', 'after'],
      ['<body><textarea class=x>a</textarea>', '.x', 'inside-end'],
      ['<body><div class=x>text</', '.x', 'after'],
      ['<table><tr><td>1</table>', 'table tbody', 'before'],
    ];
    for (const [html, selector, side] of refused)
      expect(at(html, selector, side), `${selector} ${side} ${html}`).to.equal('anchor-refused');
    expect(at('<body><p>a', '.none', 'after')).to.equal('no-anchor');
    expect(at('<body><template><p class=a></template>', '.a', 'after')).to.equal('no-anchor');
  });

  it('letters count as the page’s mode has it, and references are what they stand for', () => {
    const selector = '.Lead';
    expect(at('<!doctype html><body><p class=lead>', selector, 'inside')).to.equal('no-anchor');
    expect(at('<body><p class=lead>', selector, 'inside')).to.include('<p class=lead><script>');
    expect(at('<!doctype html><body><p class="a&amp;b">', '[class="a&b"]', 'inside')).to.include(
      '"><script>',
    );
    expect(at('<!doctype html><body><input type=TEXT>', '[type=text]', 'after')).to.include('TEXT><script>');
    expect(at('<!doctype html><body><p title=TEXT>', '[title=text]', 'after')).to.equal('no-anchor');
  });

  it('is found in every encoding, and in pages of two bytes a character', () => {
    const html = '<!doctype html><body><main><p class="größe">1</p><p class="größe b">2</p></main>';
    const selector = 'main > p.größe:nth-of-type(2)';
    const part = [{ key: 'p', placement: readAnchor(selector, 'inside-end'), code: '<i>x</i>' }];
    for (const [encoding, bytes] of [
      ['utf-8', Buffer.from(html)],
      ['windows-1252', Buffer.from(html, 'latin1')],
      ['utf-16le', Buffer.from(html, 'utf16le')],
    ] as const) {
      const { page, outcomes } = insert(bytes, part, { encoding });
      expect(outcomes[0], encoding).to.include({ inserted: true });
      expect(new TextDecoder(encoding).decode(page)).to.include('2<i>x</i></p></main>');
    }
  });

  it('is where the sides of one element are, in the order of the page', () => {
    const parts = ANCHOR_SIDES.map((side) => ({
      key: side,
      placement: readAnchor('main .x', side),
      code: `<i>${side}</i>`,
    }));
    const { page } = insert('<!doctype html><body><main><div class="x">1</div></main>', parts);
    expect(Buffer.from(page).toString()).to.include(
      '<main><i>before</i><div class="x"><i>inside</i>1<i>inside-end</i></div><i>after</i></main>',
    );
  });

  it('hundreds of selectors at once are each found', () => {
    const count = 200;
    const html = `<!doctype html><body>${Array.from({ length: count }, (_, i) => `<p class="c${i}">${i}</p>`).join('')}`;
    const parts = Array.from({ length: count }, (_, i) => ({
      key: String(i),
      placement: readAnchor(`p.c${i}`, 'inside'),
      code: `<i>${i}</i>`,
    }));
    const { page, outcomes } = insert(html, parts);
    expect(outcomes.every(({ inserted }) => inserted)).to.equal(true);
    expect(Buffer.from(page).toString()).to.include('<p class="c199"><i>199</i>199</p>');
  });
});
