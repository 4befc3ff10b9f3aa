import { html as constants, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { parsePage } from '../html/index.js';
import { SINGLE_ELEMENTS } from './single-elements.js';
import { assertShallow } from './tree.js';

/** What a page is made of, without its texts: small, and still the same to whatever is put into it. */
export interface PageSkeleton {
  readonly path: string;
  readonly html: string;
}

const VOID = new Set('area base br col embed hr img input link meta source track wbr'.split(' '));
/** Elements whose content is text to a parser; it is left out whole. */
const RAW = new Set('script style textarea title iframe noembed noframes xmp noscript'.split(' '));

/** A stretch of the page's text, UTF-16 code units. */
interface Stretch {
  readonly start: number;
  readonly end: number;
}

/**
 * Reduces a page to its elements and their ids: text becomes one letter, comments go, and of neighbours that look the
 * same one stays. Pages of one template often have one skeleton.
 *
 * @throws TooMuchError for a page that is nested too deep
 */
export function pageSkeleton(path: string, html: string): PageSkeleton {
  const document = parsePage(html);
  assertShallow(document);
  return { path, html: skeletonOf(document) };
}

/**
 * The same of a document that is parsed already, and no deeper than markup may be.
 *
 * @param leftOut - stretches of the page that are not the site's own; the document knows where its nodes stand
 */
export function skeletonOf(document: Tree.Document, leftOut: readonly Stretch[] = []): string {
  const doctype = document.mode === constants.DOCUMENT_MODE.NO_QUIRKS ? '<!DOCTYPE html>' : '';
  return doctype + reduceChildren(document.childNodes, leftOut);
}

/** Skeletons that differ, the first of each. */
export function distinctSkeletons(skeletons: readonly PageSkeleton[]): PageSkeleton[] {
  return [
    ...new Map([...skeletons].reverse().map((skeleton) => [skeleton.html, skeleton])).values(),
  ].reverse();
}

function reduceChildren(nodes: readonly Tree.ChildNode[], leftOut: readonly Stretch[]): string {
  const parts: string[] = [];
  for (const node of nodes) {
    if (leftOut.length > 0 && isWithin(node, leftOut)) continue;
    const reduced = reduce(node, leftOut);
    if (reduced !== '' && reduced !== parts.at(-1)) parts.push(reduced);
  }
  return parts.join('');
}

function isWithin({ sourceCodeLocation: at }: Tree.ChildNode, stretches: readonly Stretch[]): boolean {
  if (!at) return false;
  return stretches.some(({ start, end }) => start <= at.startOffset && at.endOffset <= end);
}

function reduce(node: Tree.ChildNode, leftOut: readonly Stretch[]): string {
  if ('value' in node) return node.value.trim() === '' ? '' : 'x';
  if (!('tagName' in node)) return '';
  const kept = node.attrs.filter((attribute) => isKept(node.tagName, attribute));
  // Which encoding it is does not matter here, and a skeleton is text.
  const attributes = kept
    .map(({ name, value }) => ` ${name}="${name === 'charset' ? '' : escapeAttribute(value)}"`)
    .sort();
  const tag = `<${node.tagName}${attributes.join('')}>`;
  if (VOID.has(node.tagName)) return tag;
  const children = 'content' in node ? node.content.childNodes : node.childNodes;
  return `${tag}${RAW.has(node.tagName) ? '' : reduceChildren(children, leftOut)}</${node.tagName}>`;
}

/** Ids, and what tells the elements apart of which a page has one each. */
function isKept(tag: string, { name, value }: Tree.Element['attrs'][number]): boolean {
  if (name === 'id') return true;
  return SINGLE_ELEMENTS.some(
    (one) =>
      one.tag === tag &&
      one.attribute === name &&
      (one.value === undefined || one.value === value.toLowerCase()),
  );
}

function escapeAttribute(value: string): string {
  return value.replaceAll('&', '&amp;').replaceAll('"', '&quot;');
}
