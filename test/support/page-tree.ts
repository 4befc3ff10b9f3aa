import { parse, serialize, type DefaultTreeAdapterTypes as Tree } from 'parse5';

/** What a visitor's browser makes of a page, with the marked scripts that a test put in. Scripting is on. */
export class PageTree {
  readonly document: Tree.Document;
  readonly head: Tree.Element | undefined;
  readonly body: Tree.Element | undefined;
  readonly isFrameset: boolean;

  constructor(html: string | Uint8Array) {
    this.document = parse(typeof html === 'string' ? html : new TextDecoder().decode(html));
    const root = this.document.childNodes.find((node) => node.nodeName === 'html') as Tree.Element;
    const child = (name: string): Tree.Element | undefined =>
      root.childNodes.find((node) => node.nodeName === name) as Tree.Element | undefined;
    this.head = child('head');
    this.body = child('body');
    this.isFrameset = child('frameset') !== undefined;
  }

  /** The tree as text, without the marked nodes; they are taken out for good. */
  withoutMarks(): string {
    removeMarks(this.document);
    return serialize(this.document);
  }

  /** Whether an element is content of a template, which is not in the page. */
  isInTemplate(element: Tree.Element): boolean {
    let at: Tree.Node | null = element;
    while (at && 'parentNode' in at) at = at.parentNode;
    return at !== this.document;
  }

  mark(key: string): Tree.Element | undefined {
    return find(this.document, key);
  }
}

/** A script that does nothing and can be found again. */
export function mark(key: string): string {
  return `<script data-part="${key}"></script>`;
}

export function isMark(node: Tree.Node, key?: string): boolean {
  return (
    'attrs' in node &&
    node.attrs.some(({ name, value }) => name === 'data-part' && (key === undefined || value === key))
  );
}

/** Children that count for "first" and "last": white space aside. */
export function solid(node: Tree.Element): Tree.Node[] {
  return node.childNodes.filter((child) => !('value' in child && /^\s*$/.test(child.value)));
}

function find(node: Tree.Node, key: string): Tree.Element | undefined {
  if (isMark(node, key)) return node as Tree.Element;
  for (const child of childNodes(node)) {
    const found = find(child, key);
    if (found) return found;
  }
  return undefined;
}

function removeMarks(node: Tree.Node): void {
  if ('content' in node) removeMarks(node.content);
  if (!('childNodes' in node)) return;
  node.childNodes = node.childNodes.filter((child) => !isMark(child));
  node.childNodes.forEach(removeMarks);
}

function childNodes(node: Tree.Node): readonly Tree.Node[] {
  const own = 'childNodes' in node ? node.childNodes : [];
  return 'content' in node ? [...own, node.content] : own;
}

/** Where the first end tag stands that ends the body, its own or that of html, as an offset of the text. */
export function bodyEndTag(html: string): number | undefined {
  // Each candidate in turn is the last thing of a shorter page: the parser says whether it counts.
  for (const { index } of html.matchAll(/<\/(?:body|html)/gi)) {
    const close = html.indexOf('>', index);
    if (close < 0) return undefined;
    // A comment after the body's end is a child of html or of the document.
    const document = parse(`${html.slice(0, close + 1)}<!--probe-->`);
    const root = document.childNodes.find((node) => node.nodeName === 'html') as Tree.Element;
    if ([root, document].some((parent) => isProbe(parent.childNodes.at(-1)))) return index;
  }
  return undefined;
}

function isProbe(node: Tree.Node | undefined): boolean {
  return node !== undefined && 'data' in node && node.data === 'probe';
}
