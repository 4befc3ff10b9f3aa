import { parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { MAX_MARKUP_DEPTH } from '../../bounds/too-much.js';
import { attributeOf, isElement, pageTree, textOf } from '../../html/index.js';
import { memoizeByText } from '../../memoize/by-text.js';

/** A script element of a part. */
export interface PartScript {
  readonly type: string;
  readonly hasFile: boolean;
  /** Without white space at its ends. */
  readonly text: string;
}

/** The script elements that a browser makes of a part's markup, also those in templates. */
export const partScripts = memoizeByText(500, (code: string): readonly PartScript[] => {
  const found: PartScript[] = [];
  collect(parseFragment(code, { treeAdapter: pageTree }).childNodes, found, 0);
  return found;
});

function collect(nodes: readonly Tree.ChildNode[], found: PartScript[], depth: number): void {
  if (depth > MAX_MARKUP_DEPTH) return;
  for (const node of nodes) {
    if (!isElement(node)) continue;
    if (node.tagName === 'script')
      found.push({
        type: (attributeOf(node, 'type') ?? '').trim(),
        hasFile: attributeOf(node, 'src') !== undefined,
        text: textOf(node).trim(),
      });
    else collect('content' in node ? node.content.childNodes : node.childNodes, found, depth + 1);
  }
}
