import { notDelivered, type NewElement } from '@pragmatica/visitor';
import { expect } from 'chai';
import fc from 'fast-check';
import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';

interface Live {
  readonly nodeId: number;
  readonly backendNodeId: number;
  readonly nodeType: number;
  readonly nodeName: string;
  readonly localName: string;
  readonly nodeValue: string;
  attributes?: string[];
  children?: Live[];
  shadowRoots?: Live[];
}

let last = 0;
const element = (localName: string, attributes: string[] = [], children: Live[] = []): Live => {
  const nodeId = ++last;
  return {
    ...{ nodeId, backendNodeId: nodeId, nodeType: 1, nodeName: localName, localName, nodeValue: '' },
    ...{ attributes, children },
  };
};

/** A page as a browser tells of it, before any script has run. */
function liveOf(node: Tree.Document | Tree.Element): Live {
  const children = node.childNodes.flatMap((child) => ('tagName' in child ? [liveOf(child)] : []));
  if ('tagName' in node)
    return element(
      node.tagName,
      node.attrs.flatMap(({ name, value }) => [name, value]),
      children,
    );
  return { ...element('#document', [], children), nodeType: 9 };
}

function all(node: Live): Live[] {
  return [node, ...(node.children ?? []).flatMap(all), ...(node.shadowRoots ?? []).flatMap(all)];
}

const flat = (found: readonly NewElement[]): number[] =>
  found.flatMap(({ node, inside }) => [node.nodeId, ...flat(inside)]);

const PAGE =
  '<!doctype html><html lang="en"><head><title>x</title><script src="/a.js"></script></head><body class="plain"><div id="app"><p>One</p><p>Two</p><ul><li>a</li><li>b</li></ul></div><table><tr><td>1</td></tr></table><svg viewBox="0 0 1 1"><path d="M0 0"/></svg></body></html>';

describe('elements that did not come with the page', () => {
  it('are none in a page that nobody has touched', () => {
    expect(notDelivered(liveOf(parse(PAGE)), PAGE)).to.deep.equal([]);
  });

  it('are all of them where the page as delivered is not known', () => {
    const root = liveOf(parse(PAGE));
    expect(flat(notDelivered(root, '')).sort((a, b) => a - b)).to.deep.equal(
      all(root)
        .filter(({ nodeType }) => nodeType === 1)
        .map(({ nodeId }) => nodeId)
        .sort((a, b) => a - b),
    );
  });

  it('are those in a shadow tree, and one whose attributes have changed, but not what stands in it', () => {
    const root = liveOf(parse(PAGE));
    const app = all(root).find(({ attributes }) => attributes?.includes('app'))!;
    app.attributes = ['id', 'app', 'data-ready', ''];
    const button = element('button');
    app.shadowRoots = [{ ...element('', [], [button]), nodeType: 11 }];
    expect(flat(notDelivered(root, PAGE))).to.deep.equal([app.nodeId, button.nodeId]);
  });

  it('are found wherever scripts put them, also beside others that look the same', () => {
    const change = fc.record({
      parent: fc.nat(),
      at: fc.nat(),
      name: fc.constantFrom('p', 'li', 'div', 'td', 'script', 'x-chat'),
      attributes: fc.constantFrom([], ['id', 'app'], ['src', '/a.js'], ['class', 'plain']),
    });
    const touch = fc.record({ which: fc.nat(), value: fc.constantFrom('a', 'b') });
    fc.assert(
      fc.property(
        fc.array(change, { maxLength: 8 }),
        fc.array(touch, { maxLength: 3 }),
        (changes, touches) => {
          const root = liveOf(parse(PAGE));
          for (const { which, value } of touches) {
            const those = all(root).filter(({ nodeType }) => nodeType === 1);
            those[which % those.length]!.attributes!.push('data-x', value);
          }
          const added = changes.map(({ parent, at, name, attributes }) => {
            const parents = all(root).filter(({ nodeType }) => nodeType === 1);
            const made = element(name, [...attributes]);
            const children = parents[parent % parents.length]!.children!;
            children.splice(at % (children.length + 1), 0, made);
            return made.nodeId;
          });
          const found = new Set(flat(notDelivered(root, PAGE)));
          expect(added.filter((id) => !found.has(id))).to.deep.equal([]);
        },
      ),
      { numRuns: 500 },
    );
  });
});
