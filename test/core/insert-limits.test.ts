import { expect } from 'chai';
import { PageInserter, insert, type InsertPart, type NamedPlacement } from '@pragmatica/core';
import fc from 'fast-check';
import { parse } from 'parse5';
import { isQuirksDoctype } from '../../packages/core/dist/insert/doctype.js';
import { inChunks } from '../support/check-insertion.js';

const SCRIPT = '<script></script>';
const at = (placement: NamedPlacement): InsertPart => ({ key: placement, placement, code: SCRIPT });

describe('what insertion holds back', () => {
  /** How many bytes are held after a text was written. */
  const held = (html: string, parts: readonly InsertPart[]): number => {
    const inserter = new PageInserter(parts, { encoding: 'utf-8' });
    inserter.write(new TextEncoder().encode(html));
    return inserter.held().length;
  };

  it('is only what may still be a place', () => {
    const end = [at('body-end')];
    const cases: readonly [string, number][] = [
      ['<body>text', 0],
      ['<body>text<', 1],
      ['<body><p class="a', '<p class="a'.length],
      ['<body>x</bo', '</bo'.length],
      ['<body><!-- a', '<!-- a'.length],
      ['<body><!-- a -->', 0],
      ['<body><script>var a = "', 0],
      ['<body><script>a</scr', '</scr'.length],
      ['<body><textarea>x</', '</'.length],
    ];
    for (const [html, bytes] of cases) expect(held(html, end), html).to.equal(bytes);
    expect(held('<title>t</title> \n<!-- a -->', [at('head-end')]), 'the head may end before it').to.equal(
      12,
    );
    expect(held('<title>t</title><div> ', [at('body-start')]), 'a frameset may come').to.equal(6);
    expect(held('<title>t</title><div>x', [at('body-start')])).to.equal(0);
    expect(held('<body>x</body>', end), 'nothing more is to come').to.equal(0);
  });

  it('is no more than 256 KB of comments, after which they are given out', () => {
    const page = `<body>x<!-- ${'c'.repeat(300_000)}`;
    expect(held(page, [at('body-end')])).to.be.lessThan(10);
    expect(insert(page, [at('body-end')]).outcomes[0]).to.include({ inserted: false, reason: 'unfinished' });
    const short = `<body>x<!-- ${'c'.repeat(200_000)}`;
    expect(insert(short, [at('body-end')]).outcomes[0]).to.deep.include({ inserted: true, offset: 7 });
  });

  it('is no more than 256 KB before it is known whether the page has a body', () => {
    const filler = `<script>${'s'.repeat(300_000)}</script>`;
    const page = `<div>${filler}text`;
    const { page: out, outcomes } = insert(page, [at('body-start'), at('body-end')]);
    expect(outcomes[0]).to.include({ inserted: false, reason: 'undecided' });
    expect(outcomes[1]!.inserted).to.equal(true);
    expect(new TextDecoder().decode(out)).to.equal(page + SCRIPT);
    const frames = insert(`<div>${filler}<frameset>`, [at('body-start'), at('body-end')]);
    expect(frames.outcomes.map((outcome) => outcome.inserted)).to.deep.equal([false, false]);
    const bytes = new TextEncoder().encode(page);
    for (const size of [1_000, 65_536, 299_999])
      expect(
        inChunks(
          bytes,
          Array.from({ length: 400 }, () => size),
          [at('body-start'), at('body-end')],
          false,
        ),
      ).to.equal(page + SCRIPT);
  });
});

describe('pages beyond all measure', () => {
  const give = (html: string, plain: boolean) => insert(html, [at('head-end'), at('body-end')], { plain });

  for (const plain of [false, true]) {
    const how = plain ? 'in JavaScript' : 'in WebAssembly';

    it(`that nest too deep keep what was placed, and the rest is left out with the reason, ${how}`, () => {
      const html = `<head></head><body>${'<svg>'.repeat(30_000)}</body>`;
      const { page, outcomes } = give(html, plain);
      expect(outcomes.map((outcome) => outcome.inserted)).to.deep.equal([true, false]);
      expect(outcomes[1]).to.include({ reason: 'too-complex' });
      expect(new TextDecoder().decode(page)).to.equal(html.replace('</head>', `${SCRIPT}</head>`));
    });

    it(`that bring too many names are left alone, ${how}`, () => {
      const names = Array.from({ length: 21_000 }, (_, i) => `<x-${i}>`).join('');
      // A part at an element makes every element count.
      const anchor: InsertPart = { key: 'a', placement: { anchor: 'a', side: 'inside' }, code: SCRIPT };
      const { outcomes } = insert(`<body>${names}</body>`, [anchor, at('body-end')], { plain });
      expect(outcomes.map((outcome) => (outcome.inserted ? '' : outcome.reason))).to.deep.equal([
        'too-complex',
        'too-complex',
      ]);
    });

    it(`that are only long are read to their end, ${how}`, () => {
      const rows = '<tr><td>1<td><b>2</b><i>3</table><table>'.repeat(60_000);
      const html = `<!doctype html><body><table>${rows}</table><svg><title>x</title></svg></body>`;
      const { outcomes } = give(html, plain);
      expect(outcomes[1]).to.deep.equal({ key: 'body-end', inserted: true, offset: html.length - 7 });
    });
  }

  it('with formatting that is opened again and again take no more than their share', () => {
    const html = `<body>${'<p><b class=x><i title="y">'.repeat(3_000)}</body>`;
    const anchor: InsertPart = { key: 'a', placement: { anchor: 'a', side: 'inside' }, code: SCRIPT };
    const { outcomes } = insert(html, [anchor, at('body-end')]);
    expect(outcomes[1]).to.include({ inserted: true });
  });
});

describe('a doctype', () => {
  const piece = fc.constantFrom(
    ...[' ', '\n', 'html', 'HTML', 'svg', 'public', 'SYSTEM', 'system', '"', "'", 'x', '""', "''", ''],
    '"-//W3C//DTD HTML 4.01//EN"',
    '"-//W3C//DTD HTML 4.01 Transitional//EN"',
    '"-//w3c//dtd html 3.2//en"',
    '"-//W3C//DTD XHTML 1.0 Strict//EN"',
    '"html"',
    "'about:legacy-compat'",
  );
  it('means quirks mode where a whole parser says so', () => {
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 8 }), (pieces) => {
        const doctype = `<!doctype${pieces.join('')}>`;
        const { mode } = parse(doctype) as unknown as { mode: string };
        expect(isQuirksDoctype(doctype), doctype).to.equal(mode === 'quirks');
      }),
      { numRuns: 3_000, seed: 20261123 },
    );
  });
});
