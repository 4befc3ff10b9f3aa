import { parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { shallowTree } from '../bounds/shallow-tree.js';
import { MAX_MARKUP_DEPTH, TooMuchError, tooMuchOf } from '../bounds/too-much.js';
import { isScriptType, type Range } from '../facts/index.js';
import {} from '../html/index.js';
import { memoizeByText } from '../memoize/by-text.js';
import { attributeOf, isElement, textOf } from '../html/index.js';
import type { PolicyRequest } from './content-policy.js';

/** Something that a code does and that a page's policy has a say in. */
export interface AskedOfPolicy {
  readonly request: PolicyRequest;
  /** Its address, or the text of what is inline. */
  readonly what: string;
  readonly range: Range;
}

/** What a code asks of the policy of whatever page it stands in, in document order. Nothing for code that is no markup. */
export const policyRequests = memoizeByText(5_000, (code): readonly AskedOfPolicy[] => {
  const found: AskedOfPolicy[] = [];
  try {
    const options = { sourceCodeLocationInfo: true, treeAdapter: shallowTree() };
    walk(parseFragment(code, options).childNodes, found, 0);
  } catch (error) {
    if (tooMuchOf(error) === undefined) throw error;
  }
  return found;
});

function walk(nodes: readonly Tree.ChildNode[], found: AskedOfPolicy[], depth: number): void {
  if (depth > MAX_MARKUP_DEPTH) throw new TooMuchError('nesting');
  for (const node of nodes) {
    if (!isElement(node)) continue;
    found.push(...requestsOf(node));
    walk(node.childNodes, found, depth + 1);
  }
}

function requestsOf(element: Tree.Element): AskedOfPolicy[] {
  const { startTag, ...whole } = element.sourceCodeLocation ?? { startOffset: 0, endOffset: 0 };
  const tag = startTag ?? whole;
  const range = { start: tag.startOffset, end: tag.endOffset };
  const asks = (request: PolicyRequest, what: string | undefined): AskedOfPolicy[] =>
    what === undefined || what.trim() === '' ? [] : [{ request, what: what.trim(), range }];
  const handlers = element.attrs
    .filter(({ name }) => /^on[a-z]+$/.test(name))
    .flatMap(({ value }) => asks('handler', value));
  return [...ownRequests(element, asks), ...handlers];
}

function ownRequests(
  element: Tree.Element,
  asks: (request: PolicyRequest, what: string | undefined) => AskedOfPolicy[],
): AskedOfPolicy[] {
  switch (element.tagName) {
    case 'script': {
      if (!isScriptType(attributeOf(element, 'type'))) return [];
      const src = attributeOf(element, 'src');
      if (src !== undefined) return asks('script', src);
      const text = textOf(element);
      // The hash is of the text as it is, white space and all (CSP Level 3, 6.7.3.3).
      return text.trim() === '' ? [] : asks('inline-script', text).map((one) => ({ ...one, what: text }));
    }
    case 'style': {
      const text = textOf(element);
      return asks('inline-style', text).map((one) => ({ ...one, what: text }));
    }
    case 'link':
      return /(?:^|\s)stylesheet(?:\s|$)/i.test(attributeOf(element, 'rel') ?? '')
        ? asks('style', attributeOf(element, 'href'))
        : [];
    case 'img':
      return asks('image', attributeOf(element, 'src'));
    case 'iframe':
    case 'frame':
      return asks('frame', attributeOf(element, 'src'));
    default:
      return [];
  }
}
