import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import type { Range } from '../facts/index.js';
import { children, descendants } from './tree.js';

/** What in the code changes the page around it. */
export interface Culprit {
  readonly kind: 'stray-end' | 'unclosed' | 'ends-head';
  /** As people know it: `</div>`, `<script>`, `a comment`, `text`. */
  readonly name: string;
  /** Within the code. */
  readonly range: Range;
}

/**
 * Finds it by the places that the parser gives to nodes: an element of the page that is closed inside the code, one of
 * the code's own that reaches beyond it, or the first thing in the code that stands in the body instead of the head.
 *
 * @param code - stands at `start` in the page
 */
export function findCulprit(page: string, code: string, start: number, inHead: boolean): Culprit | undefined {
  const end = start + code.length;
  const document = parse(page, { sourceCodeLocationInfo: true });
  const within = (offset: number): boolean => offset >= start && offset < end;
  const culprit = (kind: Culprit['kind'], name: string, from: number, to: number): Culprit => ({
    kind,
    name,
    range: { start: from - start, end: Math.min(to, end) - start },
  });
  const nodes = [...descendants(document)];
  for (const node of nodes) {
    const endTag = tagPlaces(node)?.endTag;
    if (endTag && !within(node.sourceCodeLocation!.startOffset) && within(endTag.startOffset))
      return culprit('stray-end', `</${nameOf(node)}>`, endTag.startOffset, endTag.endOffset);
  }
  if (inHead) {
    const html = document.childNodes.find(({ nodeName }) => nodeName === 'html');
    const body = html && children(html).find(({ nodeName }) => nodeName === 'body');
    for (const node of body ? descendants(body) : []) {
      const place = node.sourceCodeLocation;
      if (!place || !within(place.startOffset) || ('value' in node && node.value.trim() === '')) continue;
      const to = tagPlaces(node)?.startTag?.endOffset ?? place.endOffset;
      return culprit('ends-head', 'value' in node ? 'text' : `<${nameOf(node)}>`, place.startOffset, to);
    }
  }
  for (const node of nodes) {
    const place = node.sourceCodeLocation;
    if (!place || !within(place.startOffset) || 'value' in node || endOf(node) <= end) continue;
    const to = tagPlaces(node)?.startTag?.endOffset ?? place.endOffset;
    return culprit('unclosed', 'data' in node ? 'a comment' : `<${nameOf(node)}>`, place.startOffset, to);
  }
  return undefined;
}

/** Where a node ends; of one that is still open when the page ends, where its content does. */
function endOf(node: Tree.Node): number {
  const last = children(node).at(-1);
  return Math.max(node.sourceCodeLocation?.endOffset ?? 0, last?.sourceCodeLocation?.endOffset ?? 0);
}

function tagPlaces(node: Tree.Node): { startTag?: Place; endTag?: Place } | undefined {
  if (!('tagName' in node) || !node.sourceCodeLocation) return undefined;
  const { startTag, endTag } = node.sourceCodeLocation;
  return { ...(startTag ? { startTag } : {}), ...(endTag ? { endTag } : {}) };
}

interface Place {
  readonly startOffset: number;
  readonly endOffset: number;
}

function nameOf(node: Tree.Node): string {
  return 'tagName' in node ? node.tagName : node.nodeName;
}
