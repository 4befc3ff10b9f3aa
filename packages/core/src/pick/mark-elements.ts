import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';

/** The attribute that numbers elements of a page that is looked at. */
export const ELEMENT_MARK = 'data-pragmatica-element';

const MAX_ELEMENTS = 20_000;
const MARK = new RegExp(` ${ELEMENT_MARK}="[0-9]{1,6}"`, 'g');
/** What lies in these is text, or part of a drawing. */
const CLOSED = new Set('svg math template iframe noscript select script style'.split(' '));

/** An element that stands in the page as it came. */
export interface FoundElement {
  readonly element: Tree.Element;
  /** Where its start tag begins and ends, in UTF-16 code units. */
  readonly start: number;
  readonly startTagEnd: number;
}

/** The elements of a page's body that have a start tag of their own, in the order of the page; no more than are looked at. */
export function bodyElements(html: string): readonly FoundElement[] {
  const found: FoundElement[] = [];
  const document = parse(html, { sourceCodeLocationInfo: true });
  const root = document.childNodes.find(isElement);
  const body = root?.childNodes.find((node): node is Tree.Element => node.nodeName === 'body');
  const stack: Tree.Node[] = body ? [...body.childNodes].reverse() : [];
  for (let node = stack.pop(); node && found.length < MAX_ELEMENTS; node = stack.pop()) {
    if (!isElement(node)) continue;
    const at =
      node.sourceCodeLocation?.startTag ??
      (node.childNodes.length === 0 ? node.sourceCodeLocation : undefined);
    if (at && html[at.startOffset] === '<')
      found.push({ element: node, start: at.startOffset, startTagEnd: at.endOffset });
    if (!CLOSED.has(node.tagName))
      for (let i = node.childNodes.length - 1; i >= 0; i--) stack.push(node.childNodes[i]!);
  }
  return found;
}

function isElement(node: Tree.Node): node is Tree.Element {
  return 'tagName' in node;
}

/**
 * Numbers the elements of a page's body in an attribute of ours, so that a browser can say where each is shown.
 *
 * @param within - only those whose start tag begins in this stretch of the page
 */
export function markElements(
  html: string,
  within?: { readonly start: number; readonly end: number },
): string {
  // Copies that the parser makes come from the same tag.
  const nameEnds = new Map<number, number>();
  for (const { start, element } of bodyElements(html))
    if (!within || (start >= within.start && start < within.end))
      nameEnds.set(start, start + 1 + element.tagName.length);
  const inOrder = [...nameEnds].sort(([a], [b]) => a - b);
  let out = '';
  let at = 0;
  for (const [number, [, nameEnd]] of inOrder.entries()) {
    out += `${html.slice(at, nameEnd)} ${ELEMENT_MARK}="${number}"`;
    at = nameEnd;
  }
  return out + html.slice(at);
}

/** The page without the numbers, and where the start tag of the element with this number begins; -1 for none. */
export function unmarkElements(
  marked: string,
  number: number,
): { readonly html: string; readonly start: number } {
  const mark = marked.indexOf(` ${ELEMENT_MARK}="${number}"`);
  const html = marked.replace(MARK, '');
  if (mark < 0) return { html, start: -1 };
  const tag = marked.lastIndexOf('<', mark);
  return { html, start: marked.slice(0, tag).replace(MARK, '').length };
}
