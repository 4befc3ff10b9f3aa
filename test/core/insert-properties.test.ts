import { expect } from 'chai';
import fc from 'fast-check';
import { PageInserter, insert, type InsertPart, type NamedPlacement } from '@pragmatica/core';
import { PageTree, bodyEndTag, isMark, mark, solid } from '../support/page-tree.js';

const PLACEMENTS: readonly NamedPlacement[] = ['head-start', 'head-end', 'body-start', 'body-end'];
const PARTS: readonly InsertPart[] = PLACEMENTS.map((placement) => ({
  key: placement,
  placement,
  code: mark(placement),
}));

/** Pieces that real and hostile pages are made of. */
const PIECES = [
  '<!doctype html>',
  '<!-- c -->',
  '<!-->',
  '<!--->',
  '<!--a--!>',
  '<!-- </body> -->',
  '<?php </head> ?>',
  '</ bogus>',
  '<![CDATA[ x ]]>',
  '<html>',
  '<HTML lang="a>b">',
  '<head>',
  '<HEAD>',
  '</head>',
  '<body>',
  '<BODY class=x>',
  '<body title="</body>">',
  '</body>',
  '</BODY >',
  '</html>',
  '</br>',
  '<meta charset=utf-8>',
  '<title>a</title>',
  '<title></body></title>',
  '<base href=/>',
  '<link rel=x>',
  '<script>"</body>"</script>',
  '<script><!-- <script> </script> --></script>',
  '<script><!--<script></script>x</script>',
  '<style></head></style>',
  '<noscript><p></noscript>',
  '<template><p></body></template>',
  '<template><template></template></head></template>',
  '<noframes></body></noframes>',
  '<textarea></body></textarea>',
  '<xmp><body></xmp>',
  '<iframe></body></iframe>',
  '<p>',
  '</p>',
  '<div>',
  '</div>',
  '<b>',
  '</b>',
  '<table>',
  '<tr>',
  '<td>',
  '</td>',
  '</table>',
  '<caption>',
  '</caption>',
  '<th>',
  '</tr>',
  '<tbody>',
  '<object>',
  '</object>',
  '<marquee>',
  '</marquee>',
  '<svg>',
  '</svg>',
  '<svg/>',
  '<math>',
  '</math>',
  '<svg><title></body></title></svg>',
  '<foreignObject>',
  '</foreignObject>',
  '<svg><![CDATA[</body>]]></svg>',
  '<span>',
  '</span>',
  '<ul>',
  '<li>',
  '</ul>',
  '<h1>',
  '</h2>',
  '<button>',
  '</button>',
  '<a href=x>',
  '</a>',
  '<dl><dt>',
  '</dl>',
  '<annotation-xml>',
  '<g>',
  '</g>',
  '<font color=red>',
  '<mi>',
  '</mi>',
  '<desc>',
  '</desc>',
  'text',
  ' ',
  '\n',
  '\0',
  '&lt;body&gt;',
  '<',
  '</',
  '<3',
  'é',
  '<a href=">">',
  "<a b='>' c>",
  '<a b=c"d>',
  '<img/>',
  '<br>',
  '<hr/>',
  '<input type=hidden>',
];

/** The same pages in every run of the suite; more and other ones with PROPERTY_RUNS and PROPERTY_SEED. */
const RUNS = {
  numRuns: Number(process.env.PROPERTY_RUNS ?? 3000),
  ...(process.env.PROPERTY_RUNS === undefined ? { seed: 20261123 } : {}),
  ...(process.env.PROPERTY_SEED === undefined ? {} : { seed: Number(process.env.PROPERTY_SEED) }),
};

const page = fc.array(fc.constantFrom(...PIECES), { maxLength: 14 }).map((pieces) => pieces.join(''));

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

  it('gives the same bytes however the page is cut into chunks', () => {
    fc.assert(
      fc.property(page, fc.array(fc.nat(12), { maxLength: 30 }), (html, sizes) => {
        const bytes = new TextEncoder().encode(html);
        expect(inChunks(bytes, sizes)).to.equal(new TextDecoder().decode(insert(bytes, PARTS).page));
      }),
      RUNS,
    );
  });

  it('holds back nothing that it can give out', () => {
    const inserter = new PageInserter([{ key: 'a', placement: 'body-end', code: mark('a') }]);
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

function inChunks(bytes: Uint8Array, sizes: readonly number[]): string {
  const inserter = new PageInserter(PARTS);
  const out: Uint8Array[] = [];
  let at = 0;
  for (const size of sizes) {
    out.push(...inserter.write(bytes.subarray(at, at + size)));
    at += size;
  }
  if (at < bytes.length) out.push(...inserter.write(bytes.subarray(at)));
  out.push(...inserter.end());
  return Buffer.concat(out).toString();
}
