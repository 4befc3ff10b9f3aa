import { expect } from 'chai';
import fc from 'fast-check';
import { insert, type AnchorPlacement } from '@pragmatica/core';
import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { PageTree, isMark, mark } from '../support/page-tree.js';

const RUNS = {
  numRuns: 1500,
  ...(process.env.PROPERTY_SEED === undefined
    ? { seed: 20261123 }
    : { seed: Number(process.env.PROPERTY_SEED) }),
};

describe('reading tags', () => {
  /** Pieces of what may stand in a tag, in any order. */
  const soup = fc
    .array(
      fc.constantFrom(
        'id',
        'ID',
        'x',
        '=',
        '"',
        "'",
        ' ',
        '\n',
        '/',
        'a',
        '"a"',
        "'a'",
        'id=a',
        'id="a"',
        ' id = a',
        '&#97;',
        '<',
        '=a',
        '"b"id=a',
      ),
      { maxLength: 8 },
    )
    .map((pieces) => pieces.join(''));

  it('finds the same attributes as a whole parser', () => {
    fc.assert(
      fc.property(soup, (attributes) => {
        const html = `<!doctype html><head></head><body><p>1</p><div ${attributes}>2</div>`;
        const expected = findById(parse(html), 'a');
        const { outcomes } = insert(html, [anchorPart('before')]);
        expect(outcomes[0]!.inserted, html).to.equal(expected !== undefined);
      }),
      RUNS,
    );
  });

  it('finds the same end of a script as a whole parser, escaped or not', () => {
    const pieces = [
      '<!--',
      '-->',
      '--',
      '-',
      '>',
      '<script',
      '<script>',
      '</script',
      '</script ',
      '<scripty>',
      '</scripty>',
      '<',
      '!',
      '/',
      'x',
      '<SCRIPT/',
      '--!>',
    ];
    const body = fc.array(fc.constantFrom(...pieces), { maxLength: 9 }).map((parts) => parts.join(''));
    fc.assert(
      fc.property(body, (script) => {
        const html = `<head></head><body><script>${script}</script><p>after</p></body>`;
        const { page, outcomes } = insert(html, [{ key: 'end', placement: 'body-end', code: mark('end') }]);
        const tree = new PageTree(page);
        expect(tree.mark('end') !== undefined, html).to.equal(outcomes[0]!.inserted);
        expect(tree.withoutMarks()).to.equal(new PageTree(html).withoutMarks());
      }),
      RUNS,
    );
  });

  it('finds the same end of text elements as a whole parser', () => {
    const names = ['title', 'textarea', 'style', 'xmp', 'iframe', 'noembed', 'noframes', 'noscript'];
    const text = fc.array(
      fc.constantFrom(
        '</',
        'title',
        'style',
        'textarea',
        '>',
        ' ',
        '/',
        '<!--',
        '-->',
        'x',
        '</STYLE>',
        '</title ',
        '</xmp/>',
      ),
      { maxLength: 7 },
    );
    fc.assert(
      fc.property(fc.constantFrom(...names), text, (name, pieces) => {
        const html = `<head></head><body><${name}>${pieces.join('')}</${name}><p>after</p></body>`;
        const { page, outcomes } = insert(html, [{ key: 'end', placement: 'body-end', code: mark('end') }]);
        const tree = new PageTree(page);
        expect(tree.mark('end') !== undefined, html).to.equal(outcomes[0]!.inserted);
        expect(tree.withoutMarks(), html).to.equal(new PageTree(html).withoutMarks());
      }),
      RUNS,
    );
  });
});

// Formatting that is closed out of order is left out: the parser moves what is in it afterwards.
describe('elements by id, held against a whole parser', () => {
  const PIECES = [
    '<div id=a>',
    '<p id=a>',
    '<span id=a>',
    '</div>',
    '</p>',
    '</span>',
    '<!-- <p id=a> -->',
    '<script>"<p id=a>"</script>',
    '<template><p id=a></template>',
    '<svg id=a>',
    '<svg>',
    '</svg>',
    '<g id=a>',
    '<title id=a>x</title>',
    '<img id=a>',
    'text',
    '<head>',
    '<body>',
    '</body>',
    '<ul id=a>',
    '<li>',
    '<table><tr><td id=a>',
    '</table>',
  ];
  const page = fc
    .array(fc.constantFrom(...PIECES), { maxLength: 8 })
    .map((pieces) => `<!doctype html>${pieces.join('')}`);

  for (const side of ['inside', 'before'] as const) {
    it(`puts code ${side} the first one and changes nothing else`, () => {
      fc.assert(
        fc.property(page, (html) => {
          const { page: out, outcomes } = insert(html, [anchorPart(side)]);
          const expected = findById(parse(html), 'a');
          const tree = new PageTree(out);
          if (expected === undefined) expect(outcomes[0]!.inserted, html).to.equal(false);
          if (!outcomes[0]!.inserted) return;
          const found = tree.mark('a')!;
          const neighbour = side === 'inside' ? (found.parentNode as Tree.Element) : nextElement(found);
          expect(neighbour && idOf(neighbour), html).to.equal('a');
          expect(tree.withoutMarks(), html).to.equal(new PageTree(html).withoutMarks());
        }),
        RUNS,
      );
    });
  }
});

function anchorPart(side: AnchorPlacement['side']) {
  return { key: 'a', placement: { anchor: 'a', side }, code: mark('a') };
}

/** The first element of the page with this id, in document order; what is in a template is not in the page. */
function findById(node: Tree.Node, id: string): Tree.Element | undefined {
  if ('attrs' in node && idOf(node) === id) return node;
  for (const child of 'childNodes' in node ? node.childNodes : []) {
    const found = findById(child, id);
    if (found) return found;
  }
  return undefined;
}

function idOf(element: Tree.Element): string | undefined {
  return element.attrs.find((attribute) => attribute.name === 'id')?.value;
}

function nextElement(node: Tree.Element): Tree.Element | undefined {
  const siblings = node.parentNode!.childNodes;
  return siblings
    .slice(siblings.indexOf(node) + 1)
    .find((sibling): sibling is Tree.Element => 'attrs' in sibling && !isMark(sibling));
}
