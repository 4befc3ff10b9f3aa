import {
  SelectorError,
  anchorName,
  insert,
  normalSelector,
  parseSelector,
  placementWords,
  readAnchor,
  type AnchorSide,
} from '@pragmatica/core';
import { expect } from 'chai';

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
