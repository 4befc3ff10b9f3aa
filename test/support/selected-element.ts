import { is, type Options } from 'css-select';
import {
  Parser,
  defaultTreeAdapter,
  html,
  type DefaultTreeAdapterTypes as Tree,
  type TreeAdapter,
} from 'parse5';
import { isMark } from './page-tree.js';

type Adapter = NonNullable<Options<Tree.Node, Tree.Element>['adapter']>;

const isElement = (node: Tree.Node): node is Tree.Element => 'attrs' in node;

/** The tree of a whole parser, as a whole engine of selectors reads it. */
const READ: Adapter = {
  isTag: isElement,
  getChildren: (node) => ('childNodes' in node ? node.childNodes : []),
  getParent: (node) => ('parentNode' in node ? node.parentNode : null),
  getSiblings: (node) => (node as Tree.Element).parentNode?.childNodes ?? [node],
  getName: (element) => element.tagName,
  getAttributeValue: (element, name) => element.attrs.find((one) => one.name === name)?.value,
  hasAttrib: (element, name) => element.attrs.some((one) => one.name === name),
  getText: () => '',
  removeSubsets: (nodes) => nodes,
};

/** The elements of a page in the order in which they came into it, and the one that a selector found then. */
export interface Selected {
  readonly document: Tree.Document;
  /** Without marks. */
  readonly elements: readonly Tree.Element[];
  /** Index of the first that the selector fitted when it came. */
  readonly index: number;
  /** The parser has moved elements after they had come. */
  readonly hasMoved: boolean;
}

/** Reads a page with a whole parser, and asks of each element as it comes whether the selector fits it there. */
export function selectedElement(page: string, selector: string): Selected {
  const elements: Tree.Element[] = [];
  const known = new Set<Tree.Node>();
  let index = -1;
  const parser: { current?: Parser<Tree.DefaultTreeAdapterMap> } = {};
  let hasMoved = false;
  const came = (node: Tree.Node): void => {
    if (!isElement(node) || isMark(node)) return;
    if (known.has(node)) {
      hasMoved = true;
      return;
    }
    known.add(node);
    elements.push(node);
    if (index >= 0 || !isInDocument(node)) return;
    const quirksMode =
      defaultTreeAdapter.getDocumentMode(parser.current!.document) === html.DOCUMENT_MODE.QUIRKS;
    if (is(node, selector, { adapter: READ, quirksMode })) index = elements.length - 1;
  };
  const treeAdapter: TreeAdapter<Tree.DefaultTreeAdapterMap> = {
    ...defaultTreeAdapter,
    appendChild(parent, node) {
      defaultTreeAdapter.appendChild(parent, node);
      came(node);
    },
    insertBefore(parent, node, reference) {
      defaultTreeAdapter.insertBefore(parent, node, reference);
      came(node);
    },
  };
  parser.current = new Parser({ treeAdapter });
  parser.current.tokenizer.write(page, true);
  return { document: parser.current.document, elements, index, hasMoved };
}

function isInDocument(element: Tree.Element): boolean {
  let at: Tree.Node = element;
  while ('parentNode' in at && at.parentNode) at = at.parentNode;
  return at.nodeName === '#document';
}
