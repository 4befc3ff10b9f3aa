import { parse, serialize, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import type { NamedPlacement } from '@pragmatica/core';
import { PageTree, bodyEndTag, isMark, mark, solid } from './page-tree.js';

/** Tags that insertion may write in front of a part. */
const PREFIXES = ['', '<head>', '<body>', '<head><body>'];

/**
 * Where a script may be put, by trying: it is written at every offset of the page, and the whole page is parsed. A
 * place is right if the tree is the same but for the script, and the script stands where the placement says.
 *
 * @returns offsets of the text; none where the placement is impossible
 */
export function referencePlaces(html: string, placement: NamedPlacement): number[] {
  const original = serialize(parse(html));
  const ownEnd =
    placement === 'head-end' ? headEndTag(html) : placement === 'body-end' ? bodyEndTag(html) : undefined;
  const places: number[] = [];
  for (let offset = 0; offset <= html.length; offset++) {
    if (ownEnd !== undefined && offset !== ownEnd) continue;
    const prefixes = beginsBody(html.slice(0, offset)) ? [''] : PREFIXES;
    if (prefixes.some((prefix) => isPlace(html, offset, prefix, placement, original, ownEnd !== undefined)))
      places.push(offset);
  }
  return places;
}

function isPlace(
  html: string,
  offset: number,
  prefix: string,
  placement: NamedPlacement,
  original: string,
  isOwnEnd: boolean,
): boolean {
  // What is in a table by mistake is moved in front of it, so that later things may stand before earlier ones.
  const isAtEnd = offset === html.length;
  const tree = new PageTree(html.slice(0, offset) + prefix + mark('m') + html.slice(offset));
  const script = tree.mark('m');
  if (!script?.namespaceURI.endsWith('xhtml') || script.childNodes.length > 0 || tree.isInTemplate(script))
    return false;
  const stands = hasMeaning(tree, script, placement, isOwnEnd, isAtEnd);
  return stands && tree.withoutMarks() === original;
}

function hasMeaning(
  tree: PageTree,
  script: Tree.Element,
  placement: NamedPlacement,
  isOwnEnd: boolean,
  isAtEnd: boolean,
): boolean {
  switch (placement) {
    case 'head-start':
      return script.parentNode === tree.head && isMark(solid(tree.head)[0]!);
    case 'head-end':
      return script.parentNode === tree.head && (isOwnEnd || lastElement(tree.head) === script);
    case 'body-start':
      return script.parentNode === tree.body && isMark(solid(tree.body)[0]!);
    case 'body-end':
      // The inside of a drawing is no end of the body, even where it may hold HTML.
      if (!isAtEnd && isInDrawing(script)) return false;
      return (
        tree.body !== undefined &&
        isInside(script, tree.body) &&
        (isOwnEnd || isAtEnd || lastElement(tree.body) === script)
      );
  }
}

/** Whether something of the body stands in the page already, so that no tag of ours may. */
function beginsBody(html: string): boolean {
  const { body } = new PageTree(html);
  return body !== undefined && body.childNodes.length > 0;
}

function isInDrawing(node: Tree.Node): boolean {
  for (let at: Tree.Node | null = node; at; at = 'parentNode' in at ? at.parentNode : null)
    if ('namespaceURI' in at && !at.namespaceURI.endsWith('xhtml')) return true;
  return false;
}

/** The last element in document order. */
function lastElement(node: Tree.Element): Tree.Element {
  const last = node.childNodes.findLast((child): child is Tree.Element => 'attrs' in child);
  return last ? lastElement(last) : node;
}

function isInside(node: Tree.Node, ancestor: Tree.Node): boolean {
  for (let at: Tree.Node | null | undefined = node; at; at = 'parentNode' in at ? at.parentNode : null)
    if (at === ancestor) return true;
  return false;
}

/** Where the page's own end tag of the head stands, if it has one that counts. */
function headEndTag(html: string): number | undefined {
  const root = parse(html, { sourceCodeLocationInfo: true }).childNodes.find(
    (node) => node.nodeName === 'html',
  );
  const head = (root as Tree.Element).childNodes.find((node) => node.nodeName === 'head') as Tree.Element;
  const end = head.sourceCodeLocation?.endTag?.startOffset;
  if (end !== undefined) return end;
  // A head that only its end tag implies has no location. Other end tags before it are ignored.
  return /^(?:\s|<!--[^]*?-->|<!doctype[^>]*>|<html[^>]*>|<\/(?!head|body|html|br)[a-z][^>]*>)*(?=<\/head\s*>)/i.exec(
    html,
  )?.[0].length;
}
