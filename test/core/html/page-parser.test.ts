import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { attributePlaces, decodePage, parsePage } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { parse, type DefaultTreeAdapterTypes as Tree, type Token } from 'parse5';
import { hostilePage } from '../../support/hostile-pages.js';
import { propertyRuns } from '../../support/property-runs.js';
import { htmlFiles } from '../../support/real-pages.js';

const DEMO = fileURLToPath(new URL('../../../packages/demo/pages', import.meta.url));
/** As `test/core/real-pages.test.ts` takes them. */
const FOLDERS = [DEMO, ...(process.env['REAL_PAGES'] ?? '').split(':').filter(Boolean)];

/** Texts of what runs are cut by: spaces, replaced and escaped characters, halves of pairs. */
const TEXTS = [
  'the ferry',
  'a',
  ' ',
  '\n',
  '\r\n',
  '\r',
  '\t \f',
  '\0',
  '&amp;',
  '&notit;',
  '&#x20;',
  '&',
  '<',
  '< a',
  '⛴ 🚢',
  '\u{d83d}',
  '\u{de00}x',
  '￿',
  'é è',
];
const FRAMES = [
  '<frameset>',
  '</frameset>',
  '<frame src=a>',
  '<noframes>',
  '</noframes>',
  '</html>',
  '<html a="b c">',
];
const WRAPPERS = [
  '<table>',
  '<colgroup>',
  '<select>',
  '<pre>',
  '<textarea>',
  '</textarea>',
  '<title>',
  '</title>',
  '<script>',
  '</script>',
  '<!--',
  '-->',
  '<svg>',
  '<![CDATA[',
  ']]>',
  '<p>',
  '</p>',
  '<b>',
  '</body>',
  '<template>',
  '<a href="x y&amp;\r\nz">',
  "<a href='x\0y\"z'>",
  '<a href="it\'s 🚢 &copy">',
];

const texts = fc
  .array(fc.constantFrom(...TEXTS, ...TEXTS, ...FRAMES, ...WRAPPERS), { maxLength: 30 })
  .map((pieces) => pieces.join(''));

describe('a page parsed in runs', () => {
  it('is the tree of the plain parser, node for node and place for place', () => {
    fc.assert(
      fc.property(hostilePage(24), (html) => holds(html)),
      propertyRuns(1500),
    );
  });

  it('is so whatever its texts and values are made of', () => {
    fc.assert(
      fc.property(texts, (html) => holds(html)),
      propertyRuns(3000),
    );
  });

  it('is so where it is longer than the parser keeps', () => {
    fc.assert(
      fc.property(
        fc.array(texts, { minLength: 5, maxLength: 20 }),
        fc.integer({ min: 60_000, max: 70_000 }),
        (all, length) => {
          const [first, ...rest] = all;
          holds(`${first}${'long '.repeat(length / 5)}${rest.join('<p>' + 'x y '.repeat(2_000))}`);
        },
      ),
      propertyRuns(8),
    );
  });

  for (const folder of FOLDERS)
    it(`is so for real pages (${folder === DEMO ? 'the demo' : folder})`, function () {
      this.timeout(0);
      const files = htmlFiles([folder]);
      expect(files.length).to.be.greaterThan(0);
      for (const file of files) {
        const { text } = decodePage(readFileSync(file), undefined);
        expect(treeOf(parsePage(text)), file).to.equal(treeOf(parse(text, { sourceCodeLocationInfo: true })));
      }
    });

  it('refuses what is nested deeper than anybody may follow', () => {
    expect(() => parsePage('<div>'.repeat(100_000)))
      .to.throw()
      .with.property('name', 'TooMuchError');
  });
});

describe('the places of attributes', () => {
  it('are those that the plain parser gives, counted from the tag', () => {
    fc.assert(
      fc.property(hostilePage(24), (html) => {
        for (const element of elementsOf(parse(html, { sourceCodeLocationInfo: true }))) {
          const at = element.sourceCodeLocation;
          // What is never closed may end before its own tag does.
          if (!at?.startTag || at.endOffset < at.startTag.endOffset) continue;
          const expected = Object.entries((at.startTag as Token.LocationWithAttributes).attrs ?? {}).map(
            ([name, one]) => [
              name,
              { start: one.startOffset - at.startOffset, end: one.endOffset - at.startOffset },
            ],
          );
          expect([...attributePlaces(html.slice(at.startOffset, at.endOffset))]).to.deep.equal(expected);
        }
      }),
      propertyRuns(500),
    );
  });

  it('are none where a code begins with no tag', () => {
    for (const code of ['', 'text <a b>', '<!-- x --><a b>', '</a b>', '<!doctype html><a b>', '<a b'])
      expect(attributePlaces(code).size, code).to.equal(0);
  });
});

function holds(html: string): void {
  expect(treeOf(parsePage(html))).to.equal(treeOf(parse(html, { sourceCodeLocationInfo: true })));
}

/** A tree as text: a line for each node, with all that it holds and where it stands. */
function treeOf(document: Tree.Document): string {
  const lines: string[] = [];
  const waiting: { node: Tree.Node; depth: number }[] = [{ node: document, depth: 0 }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { node, depth } = next;
    lines.push(`${' '.repeat(depth)}${own(node)} ${placeOf(node)}`);
    const children = [
      ...('childNodes' in node ? node.childNodes : []),
      ...('content' in node ? [node.content] : []),
    ];
    for (const child of children.reverse()) waiting.push({ node: child, depth: depth + 1 });
  }
  return lines.join('\n');
}

function own(node: Tree.Node): string {
  const { parentNode: _parent, childNodes: _children, content: _content, ...rest } = node as Tree.Template;
  return JSON.stringify({ ...rest, sourceCodeLocation: undefined });
}

function placeOf({ sourceCodeLocation: at }: Tree.Node): string {
  return at ? `${at.startOffset}-${at.endOffset}` : '';
}

function* elementsOf(node: Tree.Node): Generator<Tree.Element> {
  if ('tagName' in node) yield node;
  if ('childNodes' in node) for (const child of node.childNodes) yield* elementsOf(child);
}
