import { expect } from 'chai';
import { PageInserter, insert, type InsertPart, type Placement } from '@pragmatica/core';

/** Each page with `|n|` where the n-th placement's code must land. */
const ALL: readonly Placement[] = ['head-start', 'head-end', 'body-start', 'body-end'];

const PLACED: readonly { what: string; page: string }[] = [
  {
    what: 'a page with every tag',
    page: '<!doctype html><html><head>|0|<title>t</title>|1|</head><body>|2|<p>x</p>|3|</body></html>',
  },
  {
    what: 'upper case and attributes',
    page: '<HTML><HEAD profile="a>b">|0|<TITLE>t</TITLE>|1|</HEAD><BODY CLASS="</body>">|2|x|3|</BODY></HTML>',
  },
  { what: 'no tags but a title', page: '<!doctype html>\n|0|<title>t</title>|1|\n<body>|2|<p>x|3|' },
  { what: 'an empty head and body', page: '<head>|0||1|</head><body>|2||3|</body>' },
  {
    what: 'end tags in comments, scripts and text areas',
    page: '<head>|0|<!-- </head> --><script>"</head>"</script>|1|</head><body>|2|<!-- </body> --><textarea></body></textarea>|3|</body>',
  },
  {
    what: 'a script that is escaped twice',
    page: '<head>|0||1|</head><body>|2|<script><!-- <script></body></script> --></script>|3|</body>',
  },
  {
    what: 'a noscript in the head, which is text to a visitor',
    page: '<head>|0|<noscript><p></noscript>|1|</head><body>|2||3|</body>',
  },
  {
    what: 'a table left open, where the end tag is ignored',
    page: '<head>|0||1|</head><body>|2|<table></body><tr>|3|',
  },
  {
    what: 'a drawing with a title',
    page: '<head>|0||1|</head><body>|2|<svg><title></body></title></svg>|3|</body>',
  },
  {
    what: 'content after the end of the body',
    page: '<head>|0||1|</head><body>|2|a|3|</body><p>late</p></html>',
  },
  { what: 'a second body tag', page: '<head>|0||1|</head><body>|2|a<body class="second">b|3|</body>' },
  {
    what: 'a comment in the body that never ends: they stand before it',
    page: '<head>|0||1|</head><body>|2|<p>x|3|<!-- never </body>',
  },
  {
    what: 'a tag that breaks off: the parser drops it',
    page: '<head>|0||1|</head><body>|2|<p>x|3|<a href="</body>',
  },
  {
    what: 'an end tag that has only begun, which would make a comment of them',
    page: '<head>|0||1|</head><body>|2|x|3|</',
  },
  {
    what: 'white space written as references, which begins no body',
    page: '<head>|0||1|</head>&#32;&#x0A;&Tab;&NewLine;<body>|2|x|3|',
  },
  {
    what: 'a head whose last element is followed by comments',
    page: '|0|<title>t</title><meta name=a>|1|\n<!-- c -->\n<body>|2|x|3|</body>',
  },
  {
    what: 'formatting that is closed out of order',
    page: '<head>|0||1|</head><body>|2|<p><b><svg></b></p>|3|</body>',
  },
  { what: 'a byte order mark', page: '\ufeff<head>|0||1|</head><body>|2||3|</body>' },
];

const LEFT_OUT: readonly { what: string; page: string; reason: string; placements: readonly string[] }[] = [
  {
    what: 'a frameset',
    page: '<head></head><frameset><frame></frameset>',
    reason: 'frameset',
    placements: ['body-start', 'body-end'],
  },
  {
    what: 'a comment before the head that never ends',
    page: '<!doctype html><!-- never',
    reason: 'unfinished',
    placements: ['head-start', 'head-end', 'body-start', 'body-end'],
  },
  {
    what: 'a comment between head and body that never ends',
    page: '<head></head><!-- never',
    reason: 'unfinished',
    placements: ['body-start', 'body-end'],
  },
  {
    what: 'an unclosed text area',
    page: '<body><textarea>x',
    reason: 'unfinished',
    placements: ['body-end'],
  },
  {
    what: 'plain text to the end',
    page: '<body><plaintext>x</body>',
    reason: 'unfinished',
    placements: ['body-end'],
  },
  {
    what: 'an unclosed script',
    page: '<head><script>x',
    reason: 'unfinished',
    placements: ['head-end', 'body-start', 'body-end'],
  },
  {
    what: 'a template left open',
    page: '<body><template><p>',
    reason: 'inside-template',
    placements: ['body-end'],
  },
  {
    what: 'a drawing left open',
    page: '<body><svg><g></body>',
    reason: 'inside-foreign',
    placements: ['body-end'],
  },
  {
    what: 'a frameset that replaces a body which has only begun',
    page: '<p><frameset><frame></frameset>',
    reason: 'frameset',
    placements: ['body-start', 'body-end'],
  },
];

describe('insertion, case by case', () => {
  for (const { what, page } of PLACED) {
    it(`places all four parts in ${what}`, () => {
      const bare = page.replace(/\|\d\|/g, '');
      const parts = ALL.map((placement, index): InsertPart => ({
        key: String(index),
        placement,
        code: `<script>${index}</script>`,
      }));
      const wanted = page.replace(/\|(\d)\|/g, '<script>$1</script>');
      expect(text(insert(bare, parts).page)).to.equal(wanted);
    });
  }

  for (const { what, page, reason, placements } of LEFT_OUT) {
    it(`leaves parts out of ${what} and says why`, () => {
      const bytes = Uint8Array.from(page, (character) => character.charCodeAt(0));
      const parts = ALL.map((placement): InsertPart => ({
        key: placement as string,
        placement,
        code: '<script></script>',
      }));
      const missed = insert(bytes, parts).outcomes.filter((outcome) => !outcome.inserted);
      expect(missed.map((outcome) => outcome.key)).to.deep.equal(placements);
      for (const outcome of missed)
        expect(outcome).to.include({ reason }).and.to.have.property('message').that.is.not.empty;
    });
  }

  it('writes the tag of an implied body in front, so that a script does not fall into the head', () => {
    const out = insert('<title>t</title>hello', [
      { key: 'a', placement: 'body-start', code: '<script></script>' },
    ]);
    expect(text(out.page)).to.equal('<title>t</title><body><script></script>hello');
  });

  it('writes the tag of an implied head in front of a comment, which would stand before it', () => {
    const out = insert('<p>x', [{ key: 'a', placement: 'head-start', code: '<!-- a --><script></script>' }]);
    expect(text(out.page)).to.equal('<head><!-- a --><script></script><p>x');
  });

  it('reads pages that are longer than what the machine takes at a time, whatever it has to ask', () => {
    const rows = '<p class="x">A boat leaves every hour.</p>\n'.repeat(20_000);
    const page = `<!doctype html><html><head><title>t</title></head><body>${rows}<svg><title>x</title></svg></body>`;
    const parts = ALL.map((placement, i): InsertPart => ({ key: String(i), placement, code: `<i>${i}</i>` }));
    const parts2 = [...parts, { key: 'a', placement: { anchor: 'none', side: 'before' }, code: '' } as const];
    for (const given of [parts, parts2]) {
      const out = text(insert(page, given).page);
      expect(out).to.include('<head><i>0</i><title>').and.include('</title><i>1</i></head><body><i>2</i><p');
      expect(out.endsWith('</svg><i>3</i></body>')).to.equal(true);
      const inserter = new PageInserter(given);
      const bytes = new TextEncoder().encode(page);
      const pieces: Uint8Array[] = [];
      for (let at = 0; at < bytes.length; at += 70_001)
        pieces.push(...inserter.write(bytes.subarray(at, at + 70_001)));
      expect(text(Buffer.concat([...pieces, ...inserter.end()])) === out).to.equal(true);
      expect(text(insert(page, given, { plain: true }).page) === out).to.equal(true);
    }
  });

  it('keeps the order of parts within a placement and tells the offset in the page as it came', () => {
    const parts: InsertPart[] = ['x', 'y'].map((key) => ({
      key,
      placement: 'head-end',
      code: `<meta name=${key}>`,
    }));
    const out = insert('<head></head>', parts);
    expect(text(out.page)).to.equal('<head><meta name=x><meta name=y></head>');
    expect(out.outcomes).to.deep.equal([
      { key: 'x', inserted: true, offset: 6 },
      { key: 'y', inserted: true, offset: 6 },
    ]);
  });

  describe('at an element', () => {
    const at = (page: string, anchor: string, side: 'inside' | 'before') =>
      insert(page, [{ key: 'a', placement: { anchor, side }, code: '<i></i>' }]);

    it('puts code inside or before the first element with the id', () => {
      expect(
        text(at('<p><div class=x id="a&amp;b">1</div><b id="a&amp;b">', 'a&b', 'inside').page),
      ).to.include('"a&amp;b"><i></i>1');
      expect(text(at('<p><b>2<b id=a>1</b>', 'a', 'before').page)).to.include('<p><b>2<i></i><b id=a>1');
    });

    it('ends what the element would end, so that the code stands right before it', () => {
      expect(text(at('<ul><li>1<li id=a>2</ul>', 'a', 'before').page)).to.include(
        '<li>1</li><i></i><li id=a>',
      );
      expect(text(at('<p>1<div id=a>2</div>', 'a', 'before').page)).to.include('<p>1</p><i></i><div id=a>');
    });

    it('goes after the line break that a pre drops', () => {
      expect(text(at('<pre id=a>\n1</pre>', 'a', 'inside').page)).to.equal('<pre id=a>\n<i></i>1</pre>');
      expect(text(at('<pre id=a>\r\n1</pre>', 'a', 'inside').page)).to.equal('<pre id=a>\r\n<i></i>1</pre>');
    });

    it('goes where the body begins by an element that only implies it', () => {
      const { page } = insert('<title>t</title><p id=a>x', [
        { key: 'a', placement: { anchor: 'a', side: 'before' }, code: '<script></script>' },
      ]);
      expect(text(page)).to.equal('<title>t</title><body><script></script><p id=a>x');
    });

    for (const [what, page] of [
      ['a table, for code that a table moves out', '<body><table id=a>'],
      ['a paragraph, for code that would end it', '<body><p id=a><!--p--><span>'],
      ['a void element', '<body><img id=a>'],
      ['text', '<body><textarea id=a></textarea>'],
      ['a drawing', '<body><svg id=a></svg>'],
    ] as const) {
      it(`refuses to go inside ${what}`, () => {
        const code = page.includes('<!--p-->') ? '<div></div>' : '<i></i>';
        const { outcomes } = insert(page, [{ key: 'a', placement: { anchor: 'a', side: 'inside' }, code }]);
        expect(outcomes[0]).to.include({ inserted: false, reason: 'anchor-refused' });
      });
    }

    it('says when no element has the id; text, comments and templates do not count', () => {
      const page = '<body><!-- <p id=a> --><script>"<p id=a>"</script><template><p id=a></template>';
      expect(at(page, 'a', 'inside').outcomes[0]).to.include({ inserted: false, reason: 'no-anchor' });
    });
  });
});

function text(bytes: Uint8Array): string {
  return new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes);
}
