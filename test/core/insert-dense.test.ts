import { expect } from 'chai';
import fc from 'fast-check';
import { propertyRuns } from '../support/property-runs.js';
import { inChunks, insertionFault, MARKED_PARTS } from '../support/check-insertion.js';

/**
 * Long pages, nearly as editors write them: here insertion looks at 64 bytes at a time and passes over whole tables.
 * Now and then something stands in them that must not be taken for what it looks like.
 */

const DECOYS = [
  '</body>',
  '<table>',
  '</td>',
  '<td ',
  '>',
  '/>',
  '<!--',
  "'",
  '=',
  '="',
  'x="y"',
  '<script>',
];

/** Values as they may be written in the quotes given. */
function value(quote: string): fc.Arbitrary<string> {
  return fc
    .oneof(
      { weight: 8, arbitrary: fc.constantFrom('', 'row', '/a/b.html?x=1&y=2', 'a b', 'width:1px', 'a=') },
      { weight: 1, arbitrary: fc.constantFrom(...DECOYS) },
      { weight: 1, arbitrary: fc.nat(90).map((length) => 'v'.repeat(length)) },
    )
    .map((text) => quote + text.replaceAll(quote, '') + quote);
}

const attribute = fc
  .tuple(
    fc.constantFrom(' ', ' ', ' ', ' ', '\n', '  ', '/', '\t'),
    fc.constantFrom('class', 'href', 'id', 'data-x', 'x1', 'TITLE', 'a|b', 'é', 'a"b', '=', "a'"),
    fc.oneof(
      { weight: 12, arbitrary: value('"').map((text) => `=${text}`) },
      { weight: 4, arbitrary: value("'").map((text) => `=${text}`) },
      {
        weight: 3,
        arbitrary: fc.constantFrom('', '=bare', '=a/', '= "x>"', ' ="y"', '==', '=a"b>', '="x"y', '="x""y"'),
      },
    ),
  )
  .map(([space, name, rest]) => space + name + rest);
const attributes = fc.oneof(
  { weight: 3, arbitrary: fc.constant('') },
  { weight: 4, arbitrary: fc.array(attribute, { maxLength: 3 }).map((list) => list.join('')) },
);

const ORDINARY = 'p div span a li ul code strong em tr-x td1 thing tabl sv b'.split(' ');
const PARTS_OF_TABLES = 'table tr td th tbody thead tfoot'.split(' ');
const SKELETON = 'caption colgroup col select object svg math template script style title marquee'.split(' ');
const name = fc.oneof(
  { weight: 10, arbitrary: fc.constantFrom(...ORDINARY) },
  { weight: 5, arbitrary: fc.constantFrom(...PARTS_OF_TABLES) },
  { weight: 1, arbitrary: fc.constantFrom(...SKELETON) },
);
const tag = fc
  .tuple(fc.boolean(), name, attributes, fc.constantFrom('', '', '', '', '/', ' /', ' '), fc.boolean())
  .map(
    ([isEnd, text, list, close, upper]) =>
      `<${isEnd ? '/' : ''}${upper ? text.toUpperCase() : text}${list}${close}>`,
  );
const table = fc
  .array(fc.array(fc.tuple(fc.constantFrom('td', 'th', 'TD'), attributes, fc.boolean()), { maxLength: 4 }), {
    maxLength: 4,
  })
  .chain((rows) =>
    fc.tuple(fc.constant(rows), fc.boolean(), attributes).map(([cells, hasBody, list]) => {
      const written = cells
        .map((row) => {
          const inside = row.map(([cell, own, closed]) => `<${cell}${own}>x${closed ? `</${cell}>` : ''}`);
          return `<tr>${inside.join('')}</tr>\n`;
        })
        .join('');
      return `<table${list}>${hasBody ? `<tbody>${written}</tbody>` : written}</table>`;
    }),
  );
const drawing = fc
  .array(
    fc.tuple(
      fc.constantFrom('path', 'g', 'rect', 'text', 'a', 'title', 'use', 'font'),
      attributes,
      fc.constantFrom('/>', '></#>', '>x</#>', '>'),
    ),
    { maxLength: 6 },
  )
  .map(
    (parts) =>
      `<svg>${parts.map(([shape, list, close]) => `<${shape}${list}${close.replace('#', shape)}`).join('')}</svg>`,
  );
const text = fc.oneof(
  { weight: 6, arbitrary: fc.nat(70).map((length) => 'text, '.repeat(12).slice(0, length)) },
  {
    weight: 2,
    arbitrary: fc.constantFrom('"', "don't ", 'a > b', 'a < b', '1<2', '&lt;', 'é', '<!-- <td> -->', '</>'),
  },
);
const page = fc
  .tuple(
    fc.nat(63),
    fc.array(
      fc.oneof(
        { weight: 8, arbitrary: tag },
        { weight: 6, arbitrary: text },
        { weight: 2, arbitrary: table },
        { weight: 1, arbitrary: drawing },
      ),
      { maxLength: 60 },
    ),
    fc.constantFrom('</body></html>', '</body>', '', '</table></body>'),
  )
  .map(
    ([shift, pieces, end]) =>
      `<!doctype html><html><head></head><body>${'-'.repeat(shift + 1)}${pieces.join('')}${end}`,
  );

/** parse5 8 pops a row at `</tfoot>` and its like without one open, which the Standard ignores. */
function isOwnReading(html: string): boolean {
  return /<\/t(body|foot|head)/i.test(html);
}

describe('insertion into long pages', () => {
  it('finds the same places in vectors as byte for byte, however the page is cut', () => {
    fc.assert(
      fc.property(page, fc.array(fc.nat(200), { maxLength: 12 }), (html, sizes) => {
        const bytes = Buffer.from(html, 'latin1');
        const whole = inChunks(bytes, [], MARKED_PARTS, true);
        expect(inChunks(bytes, [], MARKED_PARTS, false)).to.equal(whole);
        expect(inChunks(bytes, sizes, MARKED_PARTS, false)).to.equal(whole);
      }),
      propertyRuns(1500),
    );
  });

  it('changes nothing else of them, held against a whole parser', () => {
    fc.assert(
      fc.property(page, (html) => {
        fc.pre(!isOwnReading(html));
        expect(insertionFault(Buffer.from(html, 'latin1'), [100, 77]), html).to.equal(undefined);
      }),
      propertyRuns(500),
    );
  });
});
