import { expect } from 'chai';
import fc from 'fast-check';
import {
  PageInserter,
  CachedPlacesInserter,
  insert,
  recordPlaces,
  type InsertPart,
  type NamedPlacement,
  type PagePlaces,
} from '@pragmatica/core';
import { inChunks } from '../support/check-insertion.js';
import { hostilePage } from '../support/hostile-pages.js';
import { openElements, parserElements } from '../support/open-elements.js';
import { propertyRuns } from '../support/property-runs.js';
import { referencePlaces } from '../support/reference-places.js';
import { PageTree, bodyEndTag, isMark, mark, solid } from '../support/page-tree.js';

const PLACEMENTS: readonly NamedPlacement[] = ['head-start', 'head-end', 'body-start', 'body-end'];
const PARTS: readonly InsertPart[] = PLACEMENTS.map((placement) => ({
  key: placement,
  placement,
  code: mark(placement),
}));

const RUNS = propertyRuns(3000);

const page = hostilePage(24);

describe('insertion, held against a whole parser', () => {
  it('changes no node of any page and puts each part where its placement says', () => {
    fc.assert(
      fc.property(page, (html) => {
        const { page: out, outcomes } = insert(html, PARTS);
        const tree = new PageTree(out);
        const positions = new Map(outcomes.map((outcome) => [outcome.key, outcome.inserted]));
        for (const { key } of PARTS)
          expect(tree.mark(key) !== undefined, `${key} in the tree`).to.equal(positions.get(key));
        if (positions.get('head-start'))
          expect(isMark(solid(tree.head!)[0]!, 'head-start'), 'first in head').to.equal(true);
        if (positions.get('head-end'))
          expect(tree.mark('head-end')!.parentNode, 'in the head').to.equal(tree.head);
        if (positions.get('body-start'))
          expect(isMark(solid(tree.body!)[0]!, 'body-start'), 'first in body').to.equal(true);
        if (positions.get('body-end'))
          expect(isInside(tree.mark('body-end')!, tree.body!), 'in the body').to.equal(true);
        const ownEnd = bodyEndTag(html);
        const bodyEnd = outcomes.find((outcome) => outcome.key === 'body-end')!;
        if (ownEnd !== undefined && bodyEnd.inserted)
          expect(bodyEnd.offset, 'at the page’s own end tag').to.equal(
            Buffer.byteLength(html.slice(0, ownEnd)),
          );
        if (tree.isFrameset) expect(positions.get('body-start')).to.equal(false);
        expect(tree.withoutMarks()).to.equal(new PageTree(html).withoutMarks());
      }),
      RUNS,
    );
  });

  it('finds a place wherever there is one, and none that is wrong, held against trying every place', () => {
    fc.assert(
      fc.property(hostilePage(7), (html) => {
        for (const outcome of insert(html, PARTS).outcomes) {
          const places = referencePlaces(html, outcome.key as NamedPlacement);
          const isRight = outcome.inserted
            ? places.includes(characters(html, outcome.offset))
            : places.length === 0;
          expect(
            isRight || isOwnReading(html),
            `${outcome.key} in ${JSON.stringify(html)}: ${places.join()}`,
          ).to.equal(true);
        }
      }),
      { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 8) },
    );
  });

  it('has the same elements open as a whole parser at every point', () => {
    fc.assert(
      fc.property(page, (html) => {
        if (isOwnReading(html)) return;
        // More page follows, so that neither waits for it.
        const goesOn = `${html}<!-- more -->`;
        expect(openElements(goesOn), JSON.stringify(html)).to.equal(parserElements(goesOn));
      }),
      RUNS,
    );
  });

  it('gives the same bytes however the page is cut into chunks', () => {
    fc.assert(
      fc.property(page, fc.array(fc.nat(12), { maxLength: 30 }), fc.boolean(), (html, sizes, plain) => {
        const bytes = new TextEncoder().encode(html);
        expect(inChunks(bytes, sizes, PARTS, plain)).to.equal(latin1(insert(bytes, PARTS).page));
      }),
      RUNS,
    );
  });

  it('gives the same bytes for every way of cutting small pages in two and three', () => {
    fc.assert(
      fc.property(hostilePage(5), (html) => {
        const bytes = new TextEncoder().encode(html);
        const whole = latin1(insert(bytes, PARTS).page);
        for (let first = 0; first <= bytes.length; first++) {
          for (let second = 0; second <= Math.min(8, bytes.length - first); second++)
            expect(inChunks(bytes, [first, second], PARTS, true), html).to.equal(whole);
        }
      }),
      { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 100) },
    );
  });

  it('finds the end of the body without following ordinary elements just as it does with', () => {
    const end = PARTS.filter((part) => part.placement === 'body-end');
    // A part at an element that is not there makes every element count.
    const all = [...end, { key: 'no', placement: { anchor: 'nowhere', side: 'inside' }, code: '' } as const];
    fc.assert(
      fc.property(hostilePage(40), fc.array(fc.nat(40), { maxLength: 12 }), (pieces, sizes) => {
        const html = `<!doctype html><body>x${pieces}`;
        const bytes = new TextEncoder().encode(html);
        const followed = latin1(insert(bytes, all).page);
        expect(inChunks(bytes, sizes, end, false), html).to.equal(followed);
        expect(inChunks(bytes, sizes, end, true), html).to.equal(followed);
      }),
      RUNS,
    );
  });

  it('gives the same bytes from remembered places, and notices when the page is another', () => {
    fc.assert(
      fc.property(page, fc.array(fc.nat(20), { maxLength: 8 }), (html, sizes) => {
        const bytes = new TextEncoder().encode(html);
        const inserter = new PageInserter(PARTS);
        const out = [...inserter.write(bytes), ...inserter.end()];
        const places = recordPlaces(inserter, bytes);
        const again = remembered(places, bytes, sizes);
        expect(again.page).to.equal(Buffer.concat(out).toString('latin1'));
        expect(again.isAnother).to.equal(false);
        const first = inserter.edits.find((edit) => edit.offset > 0);
        if (!first) return;
        // One byte before a place is another one: nothing is put in from there on, and nothing of the page is lost.
        const other = bytes.slice();
        other[first.offset - 1] = other[first.offset - 1]! ^ 1;
        const noticed = remembered(places, other, sizes);
        expect(noticed.isAnother).to.equal(true);
        expect(noticed.page.replaceAll(/<script data-part="[a-z-]+"><\/script>|<head>|<body>/g, '')).to.equal(
          latin1(other).replaceAll(/<script data-part="[a-z-]+"><\/script>|<head>|<body>/g, ''),
        );
      }),
      RUNS,
    );
  });

  it('holds back nothing that it can give out', () => {
    const part: InsertPart = { key: 'a', placement: 'body-end', code: mark('a') };
    const inserter = new PageInserter([part], { encoding: 'utf-8' });
    const html = '<!doctype html><title>t</title><p>A long paragraph';
    const given = inserter.write(new TextEncoder().encode(html));
    expect(Buffer.concat(given).toString()).to.equal(html);
    expect(inserter.held()).to.have.length(0);
  });
});

function isInside(node: object, ancestor: object): boolean {
  for (let at: object | null | undefined = node; at; at = (at as { parentNode?: object | null }).parentNode)
    if (at === ancestor) return true;
  return false;
}

/** Where the Standard and the whole parser differ, or where things in a table stand in another order than written. */
function isOwnReading(html: string): boolean {
  return /<\/t(body|foot|head)|plaintext|<table|<!\[CDATA/i.test(html);
}

function remembered(
  places: PagePlaces,
  bytes: Uint8Array,
  sizes: readonly number[],
): { page: string; isAnother: boolean } {
  const inserter = new CachedPlacesInserter(places);
  const out: Uint8Array[] = [];
  let at = 0;
  for (const size of [...sizes, bytes.length]) {
    if (at < bytes.length) out.push(...inserter.write(bytes.subarray(at, at + size)));
    at += size;
  }
  out.push(...inserter.end());
  return { page: Buffer.concat(out).toString('latin1'), isAnother: inserter.isAnother };
}

/** One character for each byte. */
function latin1(bytes: Uint8Array): string {
  return Buffer.from(bytes).toString('latin1');
}

/** An offset of bytes as one of characters. */
function characters(html: string, offset: number): number {
  return new TextDecoder().decode(new TextEncoder().encode(html).subarray(0, offset)).length;
}
