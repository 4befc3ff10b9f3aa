import { insert, onPage, pageSkeleton, type Placement } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { parse, serialize } from 'parse5';
import { propertyRuns } from '../support/property-runs.js';

const NAMES = [
  'div',
  'section',
  'p',
  'span',
  'ul',
  'form',
  'a',
  'b',
  'table',
  'button',
  'label',
  'h2',
] as const;

interface Element {
  readonly name: (typeof NAMES)[number];
  readonly children: readonly Element[];
  readonly isHere: boolean;
  readonly text: string;
}

const { tree } = fc.letrec<{ tree: Element }>((tie) => {
  const own = {
    name: fc.constantFrom(...NAMES),
    isHere: fc.boolean(),
    text: fc.constantFrom('', 'one', 'two words', ' '),
  };
  const leaf = fc.record({ ...own, children: fc.constant([]) });
  const branch = fc.record({ ...own, children: fc.array(tie('tree'), { maxLength: 3 }) });
  return { tree: fc.oneof({ maxDepth: 4 }, leaf, branch) };
});

/** A page as people write it: every element closed; one of them, at most, with the id that is looked for. */
const page = fc.array(tree, { minLength: 1, maxLength: 4 }).map((elements) => {
  let isGiven = false;
  const write = ({ name, children, isHere, text }: Element): string => {
    const id = isHere && !isGiven ? ' id="here"' : '';
    if (isHere) isGiven = true;
    const inside = name === 'table' ? '<tbody><tr><td>cell</td></tr></tbody>' : children.map(write).join('');
    const content = name === 'ul' ? `<li>${text}${inside}</li>` : `${text}${inside}`;
    return `<${name}${id} class="c">${content}</${name}>`;
  };
  return `<!DOCTYPE html><html><head><title>Page</title></head><body>${elements.map(write).join('\n')}</body></html>`;
});

const CODES = [
  '<script>1</script>',
  '<p>text</p>',
  '<form><input></form>',
  '<a href="/x">more</a>',
  '<div><b>bold</b></div>',
  '<button>Go</button>',
  'words',
  '<table><tr><td>1</td></tr></table>',
];

const PLACES: readonly Placement[] = [
  'body-start',
  'body-end',
  { anchor: 'here', side: 'inside' },
  { anchor: 'here', side: 'before' },
];

describe('skeletons of pages', () => {
  it('take a part where the page itself takes it, and leave it out where the page leaves it out', () => {
    fc.assert(
      fc.property(page, fc.constantFrom(...CODES), fc.constantFrom(...PLACES), (html, code, placement) => {
        const [outcome] = insert(html, [{ key: 'part', placement, code }]).outcomes;
        const found = onPage(pageSkeleton('/', html), code, placement);
        expect(found.kind === 'left-out', html).to.equal(!outcome!.inserted);
      }),
      propertyRuns(800),
    );
  });

  it('are read by a parser as they are written', () => {
    fc.assert(
      fc.property(page, (html) => {
        const { html: skeleton } = pageSkeleton('/', serialize(parse(html)));
        expect(serialize(parse(skeleton))).to.equal(skeleton);
      }),
      propertyRuns(300),
    );
  });

  it('are never longer than the page, as a parser writes it', () => {
    fc.assert(
      fc.property(page, (html) => {
        expect(pageSkeleton('/', html).html.length).to.be.at.most(serialize(parse(html)).length);
      }),
      propertyRuns(200),
    );
  });
});
