import type { DefaultTreeAdapterTypes as Tree } from 'parse5';

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
