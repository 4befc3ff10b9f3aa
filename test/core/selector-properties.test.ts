import { ANCHOR_SIDES, insert, type AnchorSide, type InsertPart } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { serialize, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { inChunks } from '../support/check-insertion.js';
import { pagePiece } from '../support/hostile-pages.js';
import { PageTree, isMark, mark } from '../support/page-tree.js';
import { propertyRuns } from '../support/property-runs.js';
import { selectedElement } from '../support/selected-element.js';

const RUNS = propertyRuns(2500);

const name = fc.oneof(
  { weight: 3, arbitrary: fc.constantFrom('div', 'p', 'li', 'b', 'section') },
  {
    weight: 2,
    arbitrary: fc.constantFrom(
      ...'ul dl dt dd span a h2 table tr td form main x-y img button select option'.split(' '),
    ),
  },
);
const attribute = fc.constantFrom(
  '',
  '',
  ' class=a',
  ' class="b a"',
  ' CLASS=A',
  ' id=a',
  " data-x='1&amp;2'",
  ' class="&#97;" id=b',
);

/** Mostly ordinary markup, some of it hostile. */
const piece = fc.oneof(
  { weight: 6, arbitrary: fc.tuple(name, attribute).map(([tag, attributes]) => `<${tag}${attributes}>`) },
  { weight: 4, arbitrary: name.map((tag) => `</${tag}>`) },
  { weight: 1, arbitrary: fc.constant('text') },
  { weight: 1, arbitrary: pagePiece },
);
const page = fc
  .tuple(
    fc.constantFrom('', '<!doctype html>', '<!doctype html><head></head><body>'),
    fc.array(piece, { minLength: 3, maxLength: 16 }),
  )
  .map(([start, pieces]) => start + pieces.join(''))
  // Two of these make one element, whose attributes come together; and see `anchor-properties`.
  .filter((html) => !/<(html|body)[\s/]|<\/t(body|foot|head)|plaintext|<!\[CDATA|<frameset/i.test(html));

const compound = fc
  .tuple(
    fc.oneof(
      { weight: 2, arbitrary: fc.constant('') },
      { weight: 3, arbitrary: name },
      { weight: 1, arbitrary: fc.constantFrom('tbody', 'body') },
    ),
    fc.constantFrom(
      '',
      '',
      '',
      '.a',
      '.b',
      '#a',
      '[data-x]',
      '[data-x="1&2"]',
      '[class~="a" i]',
      '[class^="b"]',
    ),
    fc.constantFrom(
      '',
      '',
      '',
      '',
      '',
      ':nth-child(1)',
      ':nth-child(2)',
      ':first-child',
      ':nth-of-type(1)',
      ':nth-of-type(2)',
    ),
  )
  .map(([type, test, place]) =>
    place.includes('of-type') && type === '' ? `p${test}${place}` : `${type}${test}${place}`,
  )
  .map((text) => (text === '' ? 'div' : text));
const selector = fc
  .array(fc.tuple(compound, fc.constantFrom(' ', ' > ')), { minLength: 1, maxLength: 2 })
  .map((steps) => steps.map(([step, combinator], i) => (i === 0 ? '' : combinator) + step).join(''));

function part(text: string, side: AnchorSide): InsertPart {
  return { key: 'm', placement: { selector: text, side }, code: mark('m') };
}

/** Whether the mark stands at this side of the element. */
function standsAt(element: Tree.Element, script: Tree.Element, side: AnchorSide): boolean {
  if (side === 'inside' || side === 'inside-end')
    return element.childNodes.at(side === 'inside' ? 0 : -1) === script;
  const siblings = script.parentNode!.childNodes;
  const neighbour = siblings[siblings.indexOf(script) + (side === 'before' ? 1 : -1)];
  return neighbour === element;
}

describe('a part at an element that a selector names, held against a whole parser and a whole engine', () => {
  for (const side of ANCHOR_SIDES) {
    it(`${side}: stands at the first element that fits, and the page is the same`, () => {
      let placed = 0;
      let missed = 0;
      fc.assert(
        fc.property(page, selector, (html, text) => {
          const { page: bytes, outcomes } = insert(html, [part(text, side)]);
          const out = Buffer.from(bytes).toString();
          const [outcome] = outcomes;
          const expected = selectedElement(html, text);
          const words = `${text}\n${html}\n${out}`;
          if (!outcome!.inserted) {
            expect(out).to.equal(html);
            if (outcome!.reason === 'no-anchor') expect(expected.index, words).to.equal(-1);
            else missed++;
            return;
          }
          placed++;
          expect(expected.index, words).to.be.greaterThan(-1);
          const marked = selectedElement(out, text);
          const element = marked.elements[expected.index]!;
          const script = new PageTree(out).mark('m');
          expect(script, words).not.to.equal(undefined);
          const own = findMark(marked.document)!;
          // What is in a table by mistake is moved in front of it, and so between; as is what is not closed in order.
          if (!/<table/i.test(html) && !expected.hasMoved)
            expect(standsAt(element, own, side), words).to.equal(true);
          expect(new PageTree(out).withoutMarks(), words).to.equal(serialize(new PageTree(html).document));
        }),
        RUNS,
      );
      expect(placed, 'pages that had such a place').to.be.greaterThan(RUNS.numRuns / 40);
      expect(missed, 'places that were refused').to.be.lessThan(placed * 4);
    });

    it(`${side}: does not depend on how the page is cut, nor on what reads it`, () => {
      fc.assert(
        fc.property(
          page,
          selector,
          fc.array(fc.nat(9), { maxLength: 40 }),
          fc.boolean(),
          (html, text, sizes, plain) => {
            const bytes = Buffer.from(html);
            const parts = [part(text, side)];
            const whole = Buffer.from(insert(bytes, parts, { encoding: 'latin1' }).page).toString('latin1');
            expect(inChunks(bytes, sizes, parts, plain), `${text}\n${html}`).to.equal(whole);
          },
        ),
        RUNS,
      );
    });
  }

  it('takes any number of them, each as if it were alone', () => {
    fc.assert(
      fc.property(
        page,
        fc.array(fc.tuple(selector, fc.constantFrom(...ANCHOR_SIDES)), { maxLength: 24 }),
        (html, wanted) => {
          const unique = [...new Map(wanted.map((one) => [one.join(), one])).values()];
          const parts = unique.map(([text, side], i) => ({
            ...part(text, side),
            key: `m${i}`,
            code: mark(`m${i}`),
          }));
          const { page: bytes, outcomes } = insert(html, parts);
          const offsets = outcomes.map((outcome) => outcome.inserted && outcome.offset);
          const alone = parts.map((one) => {
            const [outcome] = insert(html, [one]).outcomes;
            return outcome!.inserted && outcome!.offset;
          });
          expect(offsets, `${html}\n${JSON.stringify(unique)}`).to.deep.equal(alone);
          expect(new PageTree(bytes).withoutMarks()).to.equal(serialize(new PageTree(html).document));
        },
      ),
      RUNS,
    );
  });
});

function findMark(node: Tree.Node): Tree.Element | undefined {
  if (isMark(node)) return node as Tree.Element;
  const children = [
    ...('childNodes' in node ? node.childNodes : []),
    ...('content' in node ? [node.content] : []),
  ];
  for (const child of children) {
    const found = findMark(child);
    if (found) return found;
  }
  return undefined;
}
