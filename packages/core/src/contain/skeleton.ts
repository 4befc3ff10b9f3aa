import { html as constants, parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { assertShallow } from './tree.js';

/** What a page is made of, without its texts: small, and still the same to whatever is put into it. */
export interface PageSkeleton {
  readonly path: string;
  readonly html: string;
}

const VOID = new Set('area base br col embed hr img input link meta source track wbr'.split(' '));
/** Elements whose content is text to a parser; it is left out whole. */
const RAW = new Set('script style textarea title iframe noembed noframes xmp noscript'.split(' '));

/**
 * Reduces a page to its elements and their ids: text becomes one letter, comments go, and of neighbours that look the
 * same one stays. Pages of one template often have one skeleton.
 *
 * @throws TooMuchError for a page that is nested too deep
 */
export function pageSkeleton(path: string, html: string): PageSkeleton {
  const document = parse(html);
  assertShallow(document);
  return { path, html: skeletonOf(document) };
}

/** The same of a document that is parsed already, and no deeper than markup may be. */
export function skeletonOf(document: Tree.Document): string {
  const doctype = document.mode === constants.DOCUMENT_MODE.NO_QUIRKS ? '<!DOCTYPE html>' : '';
  return doctype + reduceChildren(document.childNodes);
}

/** Skeletons that differ, the first of each. */
export function distinctSkeletons(skeletons: readonly PageSkeleton[]): PageSkeleton[] {
  return [
    ...new Map([...skeletons].reverse().map((skeleton) => [skeleton.html, skeleton])).values(),
  ].reverse();
}

function reduceChildren(nodes: readonly Tree.ChildNode[]): string {
  const parts: string[] = [];
  for (const node of nodes) {
    const reduced = reduce(node);
    if (reduced !== '' && reduced !== parts.at(-1)) parts.push(reduced);
  }
  return parts.join('');
}

function reduce(node: Tree.ChildNode): string {
  if ('value' in node) return node.value.trim() === '' ? '' : 'x';
  if (!('tagName' in node)) return '';
  const id = node.attrs.find(({ name }) => name === 'id')?.value;
  const tag = `<${node.tagName}${id === undefined ? '' : ` id="${escapeAttribute(id)}"`}>`;
  if (VOID.has(node.tagName)) return tag;
  const children = 'content' in node ? node.content.childNodes : node.childNodes;
  return `${tag}${RAW.has(node.tagName) ? '' : reduceChildren(children)}</${node.tagName}>`;
}

function escapeAttribute(value: string): string {
  return value.replaceAll('&', '&amp;').replaceAll('"', '&quot;');
}
