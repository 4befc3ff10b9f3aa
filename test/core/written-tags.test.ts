import { expect } from 'chai';
import fc from 'fast-check';
import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { propertyRuns } from '../support/property-runs.js';
// Of insertion's own use: no part of what the package offers.
import { readWrittenTag } from '../../packages/core/dist/insert/selector/tag-attributes.js';

const RUNS = propertyRuns(3000);

const piece = fc.constantFrom(
  ...[
    'a',
    'B',
    'class',
    'ID',
    'data-x',
    '=',
    '=',
    '"',
    "'",
    ' ',
    '\n',
    '\r\n',
    '\f',
    '/',
    '&amp;',
    '&#97',
    '&lt',
    '\0',
    'é',
    '<',
    '`',
  ],
);

/** What a whole parser makes of a tag; undefined where the text is not one whole tag. */
function parsed(tag: string): { name: string; attributes: [string, string][] } | undefined {
  const document = parse(`<!doctype html><body>${tag}`, { sourceCodeLocationInfo: true });
  const html = document.childNodes.find((node) => node.nodeName === 'html') as Tree.Element;
  const body = html.childNodes.find((node) => node.nodeName === 'body') as Tree.Element;
  const [element] = body.childNodes;
  if (!element || !('attrs' in element)) return undefined;
  const at = element.sourceCodeLocation?.startTag ?? element.sourceCodeLocation;
  const begin = '<!doctype html><body>'.length;
  if (at?.startOffset !== begin || at.endOffset !== begin + tag.length) return undefined;
  return { name: element.tagName, attributes: element.attrs.map(({ name, value }) => [name, value]) };
}

describe('a start tag as it is written', () => {
  it('is read as a whole parser reads it', () => {
    let compared = 0;
    fc.assert(
      fc.property(
        fc.constantFrom('div', 'P', 'x-y', 'h1'),
        fc.array(piece, { maxLength: 14 }),
        fc.boolean(),
        (name, pieces, hasSpace) => {
          const tag = `<${name}${hasSpace ? ' ' : ''}${pieces.join('')}>`;
          const expected = parsed(tag);
          if (!expected) return;
          compared++;
          const read = readWrittenTag(tag);
          expect(read.name, tag).to.equal(expected.name);
          expect([...read.attributes], tag).to.deep.equal(expected.attributes);
        },
      ),
      RUNS,
    );
    expect(compared).to.be.greaterThan(RUNS.numRuns / 4);
  });

  it('has the first of two attributes of one name', () => {
    const { attributes } = readWrittenTag('<p CLASS=a class="b" x>');
    expect([...attributes]).to.deep.equal([
      ['class', 'a'],
      ['x', ''],
    ]);
  });

  it('is read in time that grows with its length alone', () => {
    const many = Array.from({ length: 50_000 }, (_, i) => ` a${i}="${i}"`).join('');
    expect(readWrittenTag(`<p${many}>`).attributes.size).to.equal(50_000);
    const spaces = ' '.repeat(500_000);
    expect(readWrittenTag(`<p${spaces}a${spaces}=${spaces}b${spaces}>`).attributes.get('a')).to.equal('b');
    expect(readWrittenTag(`<p ${'/'.repeat(500_000)}a>`).attributes.has('a')).to.equal(true);
  });
});
