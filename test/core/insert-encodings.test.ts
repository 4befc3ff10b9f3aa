import { runInNewContext } from 'node:vm';
import { expect } from 'chai';
import { PageInserter, insert, pageEncoding, writtenCode, type InsertPart } from '@pragmatica/core';
import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';

const SCRIPT = String.raw`<script>var said = { "é": "ö\é€😀" + 'ж' + ${'`'}ü${'`'} + /[é]/.test("é") }; var größe = said["é"] // ende ж
</script>`;
const SAID = 'öé€😀жütrue';

/** Encodings of a page by the label it declares, with some text of its own in that encoding. */
const PAGES: readonly { label: string; text: readonly number[] }[] = [
  { label: 'utf-8', text: [0xc3, 0xa9] },
  { label: 'iso-8859-1', text: [0xe9] },
  { label: 'windows-1251', text: [0xe6] },
  { label: 'koi8-r', text: [0xd6] },
  { label: 'shift_jis', text: [0x83, 0x5c, 0x95, 0x5c] },
  { label: 'gb18030', text: [0x81, 0x5b, 0x81, 0x30, 0x81, 0x30] },
  { label: 'big5', text: [0xa5, 0x5c] },
  { label: 'euc-kr', text: [0xb0, 0xa1] },
  { label: 'euc-jp', text: [0xa4, 0xa2] },
  { label: 'iso-2022-jp', text: [0x1b, 0x24, 0x42, 0x24, 0x22, 0x3c, 0x2f, 0x1b, 0x28, 0x42] },
];

const PLACEMENTS = ['head-start', 'head-end', 'body-start', 'body-end'] as const;

function scripts(html: string): string[] {
  const found: string[] = [];
  const walk = (node: Tree.Node): void => {
    if (node.nodeName === 'script') found.push((node.childNodes[0] as Tree.TextNode).value);
    if ('childNodes' in node) node.childNodes.forEach(walk);
  };
  walk(parse(html));
  return found;
}

function said(script: string): unknown {
  return runInNewContext(`${script}; größe`);
}

function inPieces(
  page: Uint8Array,
  parts: readonly InsertPart[],
  size: number,
  encoding?: string,
): Uint8Array {
  const inserter = new PageInserter(parts, { encoding });
  const out: Uint8Array[] = [];
  for (let at = 0; at < page.length; at += size) out.push(...inserter.write(page.subarray(at, at + size)));
  return Buffer.concat([...out, ...inserter.end()]);
}

describe('the encoding of a page', () => {
  const parts = PLACEMENTS.map((placement): InsertPart => ({ key: placement, placement, code: SCRIPT }));

  for (const { label, text } of PAGES) {
    it(`does not change what code says in ${label}, whatever that lacks`, () => {
      const page = Buffer.concat([
        Buffer.from('<!doctype html><html><head><title>'),
        Uint8Array.from(text),
        Buffer.from('</title></head><body><p>'),
        Uint8Array.from(text),
        Buffer.from('</p></body></html>'),
      ]);
      const { page: out, outcomes } = insert(page, parts, { encoding: label });
      expect(outcomes.map((outcome) => outcome.inserted)).to.deep.equal([true, true, true, true]);
      const decoded = new TextDecoder(label).decode(out);
      expect(scripts(decoded).map(said)).to.deep.equal([SAID, SAID, SAID, SAID]);
      expect(decoded.replace(/<script>[^]*?<\/script>/g, '')).to.equal(new TextDecoder(label).decode(page));
      for (const size of [1, 2, 3, 7])
        expect(Buffer.from(inPieces(page, parts, size, label))).to.deep.equal(Buffer.from(out));
    });
  }

  for (const label of ['utf-16le', 'utf-16be']) {
    for (const hasMark of [true, false]) {
      it(`is written in ${label}${hasMark ? ' after its byte order mark' : ''}`, () => {
        const page = wide(`${hasMark ? '\ufeff' : ''}<title>ä😀</title><p id=ä>ж`, label === 'utf-16be');
        const more: InsertPart[] = [
          ...parts,
          { key: 'a', placement: { anchor: 'ä', side: 'inside' }, code: '<i>ü</i>' },
        ];
        const { page: out, outcomes } = insert(page, more, hasMark ? {} : { encoding: label });
        expect(outcomes.every((outcome) => outcome.inserted)).to.equal(true);
        const decoded = new TextDecoder(label).decode(out);
        expect(scripts(decoded).map(said)).to.deep.equal([SAID, SAID, SAID, SAID]);
        expect(decoded).to.include('<p id=ä><i>ü</i>ж');
        expect(decoded).to.include('</script><body><script>');
        for (const outcome of outcomes)
          expect(outcome.inserted && outcome.offset % 2, 'whole characters').to.equal(0);
        expect(Buffer.from(inPieces(page, more, 3, hasMark ? undefined : label))).to.deep.equal(
          Buffer.from(out),
        );
      });
    }
  }

  it('of two bytes a character hides brackets in a section, and ids', () => {
    const page = Buffer.concat([
      Buffer.from('<body><svg><![CDATA['),
      Uint8Array.of(0x83, 0x5d),
      Buffer.from(']></body>]]></svg><p id="'),
      Uint8Array.of(0x83, 0x5c),
      Buffer.from('">x</body>'),
    ]);
    const end: InsertPart = { key: 'a', placement: 'body-end', code: '<b></b>' };
    const inside: InsertPart = { key: 'b', placement: { anchor: 'ソ', side: 'inside' }, code: '<i></i>' };
    const decoded = new TextDecoder('shift_jis').decode(
      insert(page, [end, inside], { encoding: 'shift_jis' }).page,
    );
    expect(decoded).to.include('<p id="ソ"><i></i>x<b></b></body>');
  });

  it('that nothing declares is no hindrance: all that is beyond ASCII is escaped', () => {
    const out = insert(Buffer.from('<p>x'), [
      {
        key: 'a',
        placement: 'body-end',
        code: '<p title="é">é<!-- é --><style>p::after { content: "é\\é" }</style></p>',
      },
    ]);
    expect(Buffer.from(out.page).toString('latin1')).to.equal(
      '<p>x<p title="&#233;">&#233;<!-- ? --><style>p::after { content: "\\e9 \\e9 " }</style></p>',
    );
  });

  it('leaves code out that can be said in no other way', () => {
    for (const code of [
      '<script type="text/template">é</script>',
      '<script>String.raw`é`</script>',
      '<iframe>é</iframe>',
      '<p é>x</p>',
    ]) {
      const { outcomes } = insert(Buffer.from('<p>x'), [{ key: 'a', placement: 'body-end', code }]);
      expect(outcomes[0], code).to.include({ inserted: false, reason: 'encoding' });
    }
    const json = writtenCode('<script type="application/ld+json">{"a":"é"}</script>', 'shift_jis');
    expect(new TextDecoder().decode(json)).to.include('{"a":"\\u00e9"}');
    // A script that does not parse is not lost either.
    expect(new TextDecoder().decode(writtenCode('<script>"é</script>', undefined))).to.include('"\\u00e9');
  });

  it('is found as browsers find it', () => {
    const found = (page: string, label?: string): string | undefined =>
      pageEncoding(Buffer.from(page, 'latin1'), label);
    const cases: readonly [string | undefined, string][] = [
      ['utf-8', '<meta charset=utf-8>'],
      ['utf-8', '<META CHARSET="UTF8">'],
      ['utf-8', "<meta name=x charset='utf-8'>"],
      ['utf-8', '<meta http-equiv="Content-Type" content="text/html; charset=utf-8">'],
      ['utf-8', '<meta content="text/html;charset=\'utf-8\'" http-equiv=content-type>'],
      ['utf-8', '<!-- <meta charset=latin1> --><meta charset=utf-8>'],
      ['utf-8', '<!--><meta charset=utf-8>'],
      ['utf-8', '<p title="<meta charset=latin1>"><meta charset=utf-8>'],
      ['utf-8', '<?php <b ?><!doctype html></ x><meta charset=utf-8>'],
      ['utf-8', '<meta charset=nonsense><meta charset=utf-8>'],
      ['utf-8', '<meta charset=utf-16le>'],
      ['windows-1252', '<meta charset=iso-8859-1>'],
      ['windows-1252', '<meta charset=x-user-defined>'],
      ['windows-1252', '<meta charset=windows-1252><meta charset=utf-8>'],
      [undefined, '<meta content="text/html; charset=utf-8">'],
      [undefined, '<!-- <meta charset=utf-8> -->'],
      [undefined, '<metal charset=utf-8>'],
      [undefined, `${' '.repeat(1024)}<meta charset=utf-8>`],
      ['utf-8', `${' '.repeat(1003)}<meta charset=utf-8>`],
      ['utf-8', '\xef\xbb\xbf<meta charset=latin1>'],
      ['utf-16be', '\xfe\xff'],
      ['utf-16le', '\xff\xfe'],
    ];
    for (const [expected, page] of cases) expect(found(page), page.trim()).to.equal(expected);
    expect(found('<meta charset=utf-8>', 'latin1'), 'what the transport says counts more').to.equal(
      'windows-1252',
    );
    expect(found('\xef\xbb\xbf', 'latin1'), 'but a mark counts most').to.equal('utf-8');
    expect(found('<meta charset=koi8-r>', 'unheard-of'), 'a label that nobody knows').to.equal('koi8-r');
  });

  describe('declared in the page', () => {
    const long = `<script>${'x'.repeat(600)}</script>`;
    const put = (page: string, placements: readonly InsertPart['placement'][], options = {}) =>
      insert(
        Buffer.from(page),
        placements.map((placement, i) => ({ key: String(i), placement, code: long })),
        options,
      );
    const filler = (length: number): string => `<meta name=x content="${'y'.repeat(length)}">`;

    it('stays in the first 1,024 bytes: a part for the start of the head goes after it, and says so', () => {
      const page = `<head>${filler(500)}<meta charset=utf-8><title>t</title></head>`;
      const { page: out, outcomes } = put(page, ['head-start']);
      expect(new TextDecoder().decode(out)).to.equal(page.replace('<title>', `${long}<title>`));
      expect(outcomes[0]).to.include({ inserted: true, note: 'after-charset' });
      expect(outcomes[0]!.message).to.match(/first 1,024 bytes/);
      expect(pageEncoding(out, undefined)).to.equal('utf-8');
    });

    it('leaves a part at the start of the head where it fits, or where the transport declares the encoding', () => {
      const short = `<head><meta charset=utf-8>`;
      expect(put(short, ['head-start']).outcomes[0]).to.deep.equal({ key: '0', inserted: true, offset: 6 });
      const late = `<head>${filler(500)}<meta charset=utf-8>`;
      expect(put(late, ['head-start'], { encoding: 'utf-8' }).outcomes[0]).to.include({ offset: 6 });
    });

    it('leaves a part out that has no other place', () => {
      const page = `<head></head><body>${filler(500)}<meta charset=utf-8>`;
      expect(put(page, ['body-start']).outcomes[0]).to.include({ inserted: false, reason: 'charset' });
      // Browsers look for a declaration in bytes, not in elements.
      const hidden = `<head><script>"${'y'.repeat(500)}<meta charset=utf-8>"</script></head>`;
      expect(put(hidden, ['head-start']).outcomes[0]).to.include({ inserted: false, reason: 'charset' });
    });
  });
});

function wide(text: string, highFirst: boolean): Buffer {
  const bytes = Buffer.from(text, 'utf16le');
  return highFirst ? bytes.swap16() : bytes;
}
