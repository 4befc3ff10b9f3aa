import { parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { isElement } from '../html/index.js';
import { MAX_MARKUP_DEPTH } from '../bounds/too-much.js';

const MARKED = new Set(['script', 'style', 'link']);

/** A code cut where a nonce goes in: between each two pieces stands one. */
export type NoncePieces = readonly string[];

/** Cuts a code behind the names of the tags that can carry a nonce and have none (HTML Standard, 2.5.6). */
export function noncePieces(code: string): NoncePieces {
  const at: number[] = [];
  collect(parseFragment(code, { sourceCodeLocationInfo: true }).childNodes, at, 0);
  at.sort((a, b) => a - b);
  const pieces: string[] = [];
  let from = 0;
  for (const end of at) {
    pieces.push(code.slice(from, end));
    from = end;
  }
  pieces.push(code.slice(from));
  return pieces;
}

/** @param nonce - characters of base64, as `nonceIn` gives it */
export function withNonce(pieces: NoncePieces, nonce: string): string {
  return pieces.join(` nonce="${nonce}"`);
}

function collect(nodes: readonly Tree.ChildNode[], at: number[], depth: number): void {
  if (depth > MAX_MARKUP_DEPTH) return;
  for (const node of nodes) {
    if (!isElement(node)) continue;
    const { tagName, attrs, sourceCodeLocation } = node;
    if (MARKED.has(tagName) && sourceCodeLocation && !attrs.some(({ name }) => name === 'nonce'))
      at.push(sourceCodeLocation.startOffset + 1 + tagName.length);
    if (isTemplate(node)) collect(node.content.childNodes, at, depth + 1);
    collect(node.childNodes, at, depth + 1);
  }
}

function isTemplate(node: Tree.Element): node is Tree.Template {
  return node.tagName === 'template' && 'content' in node;
}
