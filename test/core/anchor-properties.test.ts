import { insert, type AnchorPlacement, type InsertPart } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { propertyRuns } from '../support/property-runs.js';
import { parse, serialize, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { inChunks } from '../support/check-insertion.js';
import { pagePiece } from '../support/hostile-pages.js';
import { PageTree, isMark, mark } from '../support/page-tree.js';

const RUNS = propertyRuns(1200);

/** Elements that may carry the id, of every kind that tree construction treats apart. */
const ANCHORS = (
  'p div li dd dt h2 section ul table tr td th caption tbody select option button form a b nobr span pre textarea svg g ' +
  'math mi title script style template body head html img hr input object ruby rt x-y iframe meta link'
).split(' ');

const page = fc
  .tuple(
    fc.constantFrom(
      '',
      '<!doctype html>',
      '<!doctype html><head></head><body>',
      '<p>a',
      '<ul><li>a',
      '<table><tr><td>',
    ),
    fc.array(pagePiece, { maxLength: 5 }),
    fc.constantFrom(...ANCHORS),
    fc.constantFrom(' id=a', ' ID="a"', " class=x id='&#97;'", ' id', ' id=b'),
    fc.array(pagePiece, { maxLength: 5 }),
  )
  .map(([start, before, name, id, after]) => `${start}${before.join('')}<${name}${id}>${after.join('')}`);

/** The first element of the page with the id, in document order; content of templates is not in the page. */
function findById(node: Tree.Node): Tree.Element | undefined {
  if ('attrs' in node && node.attrs.some(({ name, value }) => name === 'id' && value === 'a')) return node;
  for (const child of 'childNodes' in node ? node.childNodes : []) {
    const found = findById(child);
    if (found) return found;
  }
  return undefined;
}

function part(side: AnchorPlacement['side']): InsertPart {
  return { key: 'm', placement: { anchor: 'a', side }, code: mark('m') };
}

/** Where later elements stand before earlier ones, or the Standard and the whole parser differ. */
function isOwnReading(html: string): boolean {
  return /<\/t(body|foot|head)|plaintext|<!\[CDATA/i.test(html);
}

describe('a part at an element, held against a whole parser', () => {
  for (const side of ['before', 'inside'] as const) {
    it(`stands ${side === 'before' ? 'right before it' : 'first in it'}, and the page is the same`, () => {
      let placed = 0;
      fc.assert(
        fc.property(page, (html) => {
          // Of several the first on the way counts, which need not be the first of the document.
          if (isOwnReading(html) || (html.match(/ id='?"?(a|&#97;)/gi) ?? []).length > 1) return;
          const { page: out, outcomes } = insert(html, [part(side)]);
          if (!outcomes[0]!.inserted) {
            expect(Buffer.from(out).toString()).to.equal(html);
            return;
          }
          placed++;
          const tree = new PageTree(out);
          const script = tree.mark('m');
          expect(script !== undefined && !tree.isInTemplate(script), html).to.equal(true);
          const anchor = findById(tree.document);
          const neighbour = side === 'before' ? nextElement(script!) : (script!.parentNode as Tree.Element);
          // What is in a table by mistake is moved in front of it, and so between.
          expect(
            neighbour === anchor || /<table/i.test(html),
            `${html}\n${Buffer.from(out).toString()}`,
          ).to.equal(true);
          if (side === 'inside')
            expect(anchor!.childNodes.findIndex((child) => isMark(child))).to.be.lessThan(2);
          expect(tree.withoutMarks(), html).to.equal(serialize(parse(html)));
        }),
        RUNS,
      );
      expect(placed, 'pages that had such a place').to.be.greaterThan(RUNS.numRuns / 10);
    });

    it(`${side} it does not depend on how the page is cut, nor on what reads it`, () => {
      fc.assert(
        fc.property(page, fc.array(fc.nat(9), { maxLength: 40 }), fc.boolean(), (html, sizes, plain) => {
          const bytes = Buffer.from(html);
          const whole = Buffer.from(insert(bytes, [part(side)], { encoding: 'latin1' }).page).toString(
            'latin1',
          );
          expect(inChunks(bytes, sizes, [part(side)], plain), html).to.equal(whole);
        }),
        RUNS,
      );
    });
  }

  it('is refused or left out with a reason wherever the id is on something that cannot be one', () => {
    const cases: readonly [string, AnchorPlacement['side'], string][] = [
      ['<body id=a>', 'before', 'anchor-refused'],
      ['<html id=a>', 'inside', 'anchor-refused'],
      ['<body><img id=a>', 'inside', 'anchor-refused'],
      ['<body><svg><g id=a>', 'before', 'anchor-refused'],
      ['<body><svg><g id=a>', 'inside', 'anchor-refused'],
      ['<body><template><p id=a>', 'inside', 'no-anchor'],
      ['<body><td id=a>', 'inside', 'no-anchor'],
      ['<body><select><p id=a>', 'inside', 'no-anchor'],
      ['<body><table><b id=a>', 'before', 'anchor-refused'],
      ['<body><!-- <p id=a> --><script>"<p id=a>"</script>', 'inside', 'no-anchor'],
      ['<body><iframe id=a></iframe>', 'inside', 'anchor-refused'],
    ];
    for (const [html, side, reason] of cases)
      expect(insert(html, [part(side)]).outcomes[0], `${side} ${html}`).to.include({
        inserted: false,
        reason,
      });
    expect(insert('<body id=a>x', [part('inside')]).outcomes[0]).to.include({ inserted: true, offset: 11 });
  });
});

function nextElement(node: Tree.Element): Tree.Element | undefined {
  const siblings = node.parentNode!.childNodes;
  const next = siblings[siblings.indexOf(node) + 1];
  return next && 'attrs' in next ? next : undefined;
}
