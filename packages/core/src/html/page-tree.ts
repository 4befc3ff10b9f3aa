import { defaultTreeAdapter, type DefaultTreeAdapterTypes as Tree } from 'parse5';

/**
 * The parser's own tree, in which a place grows with its node. Otherwise it is a new object for each word of a text, which
 * costs more than all the rest of the parsing.
 */
export const pageTree: typeof defaultTreeAdapter = {
  ...defaultTreeAdapter,
  updateNodeSourceCodeLocation(node, end) {
    if (node.sourceCodeLocation) Object.assign(node.sourceCodeLocation, end);
    else defaultTreeAdapter.updateNodeSourceCodeLocation(node, end);
  },
};

export function isElement(node: Tree.Node): node is Tree.Element {
  return 'tagName' in node;
}

export function isText(node: Tree.Node): node is Tree.TextNode {
  return node.nodeName === '#text';
}

/** The value of an attribute; undefined where it is not there. */
export function attributeOf(element: Tree.Element, name: string): string | undefined {
  return element.attrs.find((one) => one.name === name)?.value;
}

/** The texts right below an element, joined. */
export function textOf(element: Tree.Element): string {
  return element.childNodes.map((child) => (isText(child) ? child.value : '')).join('');
}
