import {
  barePage,
  chooseSelector,
  markElements,
  orderedParts,
  placeOnPages,
  unmarkElements,
  type PageText,
} from '@pragmatica/core';
import { expect } from 'chai';
import { boxesAt } from '../../packages/console/src/views/place/boxes.js';
import { part, set, snippet } from '../support/sets.js';

const page = (path: string, html: string): PageText => ({
  path,
  html: `<!doctype html><body>${html}</body>`,
});

/** Chooses for the element that has `here` among its attributes. */
function choose(one: PageText, others: readonly PageText[] = [], side: 'inside' | 'after' = 'inside') {
  const html = one.html.replace(' here', '');
  const start = one.html.lastIndexOf('<', one.html.indexOf(' here'));
  return chooseSelector({ page: { ...one, html }, start, side, code: '<b>x</b>', others });
}

describe('an element that somebody clicked on', () => {
  it('is named by its id where it has one that somebody wrote', () => {
    expect(choose(page('/', '<div id="slot" here class="a">x</div>')).choices[0]!.selector).to.equal('#slot');
  });

  it('is named by a class rather than by an id that a program made', () => {
    const { choices } = choose(page('/', '<div id="w-93f0a7c2d1" class="sidebar" here>x</div>'));
    expect(choices[0]!.selector).to.equal('.sidebar');
  });

  it('is named so that the first that fits is the one, and no other', () => {
    const { choices } = choose(
      page('/', '<p class="note">1</p><main><p class="note" here>2</p></main><p>3</p>'),
    );
    expect(choices[0]!.selector).to.match(/^main /);
    for (const { selector } of choices) expect(selector).not.to.equal('.note');
  });

  it('is named by its place under its parents where nothing else tells', () => {
    const { choices } = choose(page('/', '<div><p>1</p><p here>2</p></div>'));
    expect(choices.map(({ selector }) => selector)).to.include('body > div > p:nth-of-type(2)');
  });

  it('is named by what holds on the most pages', () => {
    const first = page('/', '<main class="m1"><h1 id="only-here" here>a</h1></main>');
    const others = [page('/b', '<main><h1>b</h1></main>'), page('/c', '<main class="m1"><h1>c</h1></main>')];
    const { choices } = choose(first, others, 'after');
    expect(choices[0]!.selector).to.match(/main h1|h1/);
    expect(choices[0]!.holdsOn).to.have.members(['/', '/b', '/c']);
    const byId = choices.find(({ selector }) => selector === '#only-here');
    if (byId) expect(byId.missingOn).to.have.members(['/b', '/c']);
  });

  it('that cannot take code says why', () => {
    const { choices, reason } = choose(page('/', '<img class="logo" here>'), [], 'inside');
    expect(choices).to.deep.equal([]);
    expect(reason).to.match(/would change the page around it/);
  });

  it('is found again by its number, and the page is as it was', () => {
    const html = '<!doctype html><body><main><p>1</p><p class="x">2</p><svg><g></g></svg></main></body>';
    const marked = markElements(html);
    expect(marked.match(/data-pragmatica-element/g)).to.have.length(4);
    for (let number = 0; number < 4; number++) {
      const { html: back, start } = unmarkElements(marked, number);
      expect(back).to.equal(html);
      expect(html[start]).to.equal('<');
    }
    expect(html.slice(unmarkElements(marked, 2).start)).to.match(/^<p class="x">/);
    expect(unmarkElements(marked, 9).start).to.equal(-1);
  });

  it('is looked for in the page without what is ours', () => {
    const counter = snippet('counter', { parts: [part('body-start', 0, '<p>Count</p>')] });
    const html = '<!doctype html><body><p>Count</p><main><p>1</p></main></body>';
    expect(barePage(html, 'quay', orderedParts(set(counter)), {})).to.equal(
      '<!doctype html><body><main><p>1</p></main></body>',
    );
  });

  it('is numbered only where it stands itself: not in drawings, lists of choices or templates', () => {
    const html =
      '<!doctype html><body><svg><g></g></svg><select><option>1</select><template><p>x</template><p>y</body>';
    const marked = markElements(html);
    for (const tag of ['<g>', '<option>', '<template ', '<p>x']) expect(marked).to.include(tag);
    expect(marked.match(/<(svg|select|p) data-pragmatica-element/g)).to.have.length(3);
  });

  it('of a part alone is what stands in its stretch of the page', () => {
    const html = '<!doctype html><body><p>a</p><b>b</b><i>c</i></body>';
    const start = html.indexOf('<b>');
    expect(markElements(html, { start, end: start + 8 })).to.equal(
      '<!doctype html><body><p>a</p><b data-pragmatica-element="0">b</b><i>c</i></body>',
    );
  });

  it('under a pointer is the smallest first, and the innermost of those that are as large', () => {
    const box = (element: number, x: number, width: number) => ({
      element,
      box: { x, y: 0, width, height: 10 },
    });
    const elements = [box(0, 0, 100), box(1, 0, 100), box(2, 10, 20), box(3, 50, 20)];
    const at = (x: number) => boxesAt(elements, { x, y: 5 }).map(({ element }) => element);
    expect(at(15)).to.deep.equal([2, 1, 0]);
    expect(at(55)).to.deep.equal([3, 1, 0]);
    expect(at(101)).to.deep.equal([]);
  });

  it('holds a place or not, page by page', () => {
    const pages = [page('/a', '<p class="x">a</p>'), page('/b', '<p>b</p>')];
    const outcomes = placeOnPages({ selector: 'p.x', side: 'after' }, '<b>x</b>', pages);
    expect(outcomes.map(({ path, message }) => [path, message === null])).to.deep.equal([
      ['/a', true],
      ['/b', false],
    ]);
    expect(outcomes[1]!.message).to.equal('The page does not have this element.');
  });
});
