import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { isAnchor, type Placement } from '../insert/index.js';
import { partKey, type Snapshot } from '../release/index.js';

export type ContainmentProblem = 'ends-head' | 'swallows-page' | 'changes-page';

export interface Containment {
  readonly problem: ContainmentProblem;
  readonly message: string;
}

const MESSAGES: Record<ContainmentProblem, string> = {
  'ends-head':
    'This code holds visible content, which cannot stand in the head: the browser would end the head there and move everything after it into the page. Place it in the body, or take the visible content out.',
  'swallows-page':
    'This code leaves something open (a script, a comment, a text element or a quote that never ends), so the browser would swallow the page after it. Copy the code again, completely.',
  'changes-page':
    'This code changes the page around it: it closes or opens elements that are not its own. Every tag it opens must be closed inside it, and it must close nothing else.',
};

/** Neighbours that stand for any page: a marked element on each side, and more page after. */
const FRAMES: Record<'head' | 'body', { before: string; after: string }[]> = {
  head: [
    {
      before: '<!doctype html><html><head><meta charset="utf-8"><meta name="left">',
      // A noscript stays in the head only while the head is open.
      after: '<meta name="right">\n<noscript><link></noscript></head><body><p>text</p></body></html>',
    },
  ],
  body: [
    {
      before: '<!doctype html><html><head><title>t</title></head><body><div id="left">text</div>',
      after: '<div id="right"><p>text</p></div><p>end</p></body></html>',
    },
    {
      before: '<!doctype html><html><head></head><body><main><section><span id="left"></span>',
      after: '<span id="right">text</span></section></main><p>end</p></body></html>',
    },
  ],
};

/**
 * Whether code at a placement changes any node of a page outside itself (design, 4.1). Computed by parsing: the page
 * with the code in it must be the page without it plus a run of neighbouring nodes at that one place.
 *
 * @returns undefined when the code is contained
 */
export function containmentProblem(code: string, placement: Placement): Containment | undefined {
  const inHead = !isAnchor(placement) && placement.startsWith('head');
  for (const { before, after } of FRAMES[inHead ? 'head' : 'body']) {
    const without = parse(before + after);
    const withCode = parse(before + code + after);
    if (isWithInsertion(without, withCode)) continue;
    const problem = classify(withCode, inHead);
    return { problem, message: MESSAGES[problem] };
  }
  return undefined;
}

export interface UncontainedPart extends Containment {
  readonly snippet: string;
  readonly name: string;
  readonly part: string;
  /** Index of the part in its snippet. */
  readonly index: number;
}

/** The parts of a snapshot that may not be released: of snippets that are on, those that are not contained. */
export function uncontainedParts(snapshot: Snapshot): UncontainedPart[] {
  return snapshot.snippets
    .filter((snippet) => snippet.state === 'on')
    .flatMap((snippet) =>
      snippet.parts.flatMap((part, index) => {
        const found = containmentProblem(part.code, part.placement);
        return found
          ? [{ ...found, snippet: snippet.key, name: snippet.name, part: partKey(snippet.key, index), index }]
          : [];
      }),
    );
}

/** Equal trees, except that exactly one list of children may hold one run of nodes more. */
function isWithInsertion(without: Tree.Document, withCode: Tree.Document): boolean {
  let insertions = 0;
  const same = (a: Tree.Node, b: Tree.Node): boolean => {
    if (own(a) !== own(b)) return false;
    const left = children(a);
    const right = children(b);
    if (right.length === left.length) return left.every((child, i) => same(child, right[i]!));
    if (right.length < left.length || ++insertions > 1) return false;
    const extra = right.length - left.length;
    let start = 0;
    while (start < left.length && same(left[start]!, right[start]!)) start++;
    return left.slice(start).every((child, i) => same(child, right[start + extra + i]!));
  };
  return same(without, withCode);
}

function children(node: Tree.Node): readonly Tree.Node[] {
  if ('content' in node) return node.content.childNodes;
  return 'childNodes' in node ? node.childNodes : [];
}

/** A node's own name, attributes and text, without its children. */
function own(node: Tree.Node): string {
  if ('value' in node) return `text ${node.value}`;
  if ('data' in node) return `comment ${node.data}`;
  if ('attrs' in node) {
    const attributes = node.attrs.map(({ name, value }) => `${name}=${JSON.stringify(value)}`).sort();
    return `<${node.namespaceURI} ${node.tagName} ${attributes.join(' ')}>`;
  }
  return node.nodeName + ('mode' in node ? node.mode : '');
}

function classify(withCode: Tree.Document, inHead: boolean): ContainmentProblem {
  const html = withCode.childNodes.find((node) => node.nodeName === 'html');
  const [head, body] = ['head', 'body'].map(
    (name) => html && children(html).find((node) => node.nodeName === name),
  );
  if (inHead && body && hasMarker(body)) return 'ends-head';
  const seen = [head, body].some((node) => node !== undefined && hasMarker(node));
  return seen ? 'changes-page' : 'swallows-page';
}

/** Whether the neighbour after the code is still an element. */
function hasMarker(node: Tree.Node): boolean {
  if ('attrs' in node && node.attrs.some((attribute) => attribute.value === 'right')) return true;
  return children(node).some(hasMarker);
}
