import type { DefaultTreeAdapterTypes as Tree } from 'parse5';
import { MAX_MARKUP_DEPTH, TooMuchError } from '../bounds/too-much.js';

/** Equal trees, except that exactly one list of children may hold one run of nodes more. */
export function isWithInsertion(without: Tree.Document, withCode: Tree.Document): boolean {
  let insertions = 0;
  const same = (a: Tree.Node, b: Tree.Node): boolean => {
    if (own(a) !== own(b)) return false;
    const left = children(a);
    const right = children(b);
    if (right.length === left.length) return left.every((child, i) => same(child, right[i]!));
    if (right.length < left.length || ++insertions > 1) return false;
    const extra = right.length - left.length;
    let start = 0;
    while (start < left.length && same(left[start]!, right[start]!)) start++;
    return left.slice(start).every((child, i) => same(child, right[start + extra + i]!));
  };
  return same(without, withCode);
}

/** @throws TooMuchError where elements are nested deeper than anybody may follow. Without calling itself. */
export function assertShallow(document: Tree.Document): void {
  let level: Tree.Node[] = [document];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > MAX_MARKUP_DEPTH) throw new TooMuchError('nesting');
    const below: Tree.Node[] = [];
    for (const node of level)
      for (const child of children(node)) if ('childNodes' in child) below.push(child);
    level = below;
  }
}

/** A node's children; those of a template stand in its content. */
export function children(node: Tree.Node): readonly Tree.Node[] {
  if ('content' in node) return node.content.childNodes;
  return 'childNodes' in node ? node.childNodes : [];
}

/** All nodes below one, in document order. */
export function* descendants(node: Tree.Node): Generator<Tree.Node> {
  for (const child of children(node)) {
    yield child;
    yield* descendants(child);
  }
}

/** A node's own name, attributes and text, without its children. */
function own(node: Tree.Node): string {
  if ('value' in node) return `text ${node.value}`;
  if ('data' in node) return `comment ${node.data}`;
  if ('attrs' in node) {
    const attributes = node.attrs.map(({ name, value }) => `${name}=${JSON.stringify(value)}`).sort();
    return `<${node.namespaceURI} ${node.tagName} ${attributes.join(' ')}>`;
  }
  return node.nodeName + ('mode' in node ? node.mode : '');
}
