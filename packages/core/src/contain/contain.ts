import { parse, parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { isInHead, type Placement } from '../insert/index.js';
import { waitingCode } from '../plan/index.js';
import { shallowTree } from '../bounds/shallow-tree.js';
import { tooMuchOf } from '../bounds/too-much.js';
import { partKey, type Snapshot, type SnapshotPart, type SnapshotSnippet } from '../snapshot/index.js';
import { findCulprit, type Culprit } from './culprit.js';
import { assertShallow, children, isWithInsertion } from './tree.js';
import { CONTAIN_TEXTS } from '../texts/contain.js';
import { say } from '../texts/say.js';
import { lazyTexts } from '../texts/lazy-texts.js';

export type ContainmentProblem = 'ends-head' | 'swallows-page' | 'changes-page' | 'unproven';

export interface Containment {
  readonly problem: ContainmentProblem;
  readonly message: string;
  /** Where in the code it is; undefined where it cannot be told. */
  readonly culprit: Culprit | undefined;
}

const MESSAGES: Record<ContainmentProblem, string> = lazyTexts({
  'ends-head': () => CONTAIN_TEXTS.codeHoldsVisible,
  'swallows-page': () => CONTAIN_TEXTS.codeLeavesSomething,
  'changes-page': () => CONTAIN_TEXTS.codeChangesPage,
  unproven: () => CONTAIN_TEXTS.whetherCodeLeaves,
});

/** The same with the very thing that does it. */
const CULPRIT_MESSAGES: Record<Culprit['kind'], (name: string) => string> = {
  'stray-end': (name) => say(CONTAIN_TEXTS.nameClosesElement, { name }),
  unclosed: (name) => say(CONTAIN_TEXTS.nameOpenedHere, { name }),
  'ends-head': (name) => say(CONTAIN_TEXTS.nameVisibleContent, { name }),
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
      // Inside what pages are mostly made of: an end tag too many closes one of these.
      before: '<!doctype html><html><head></head><body><main><div><section><article><span><i id="left"></i>',
      after: '<i id="right">text</i></span></article></section></div></main><p>end</p></body></html>',
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
  try {
    return tryInFrames(code, placement);
  } catch (error) {
    if (tooMuchOf(error) === undefined) throw error;
    return UNPROVEN;
  }
}

/** What nobody could find out within bounds counts as not contained. */
export const UNPROVEN: Containment = {
  problem: 'unproven',
  get message() {
    return MESSAGES.unproven;
  },
  culprit: undefined,
};

function tryInFrames(code: string, placement: Placement): Containment | undefined {
  const inHead = isInHead(placement);
  for (const { before, after } of FRAMES[inHead ? 'head' : 'body']) {
    const without = parse(before + after);
    const page = before + code + after;
    const withCode = parse(page, { treeAdapter: shallowTree() });
    assertShallow(withCode);
    if (isWithInsertion(without, withCode)) continue;
    const problem = classify(withCode, inHead);
    const culprit = findCulprit(page, code, before.length, inHead);
    return {
      problem,
      // It is kept for readers of any language.
      get message() {
        return culprit ? CULPRIT_MESSAGES[culprit.kind](culprit.name) : MESSAGES[problem];
      },
      culprit,
    };
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

/**
 * The parts of a snapshot that may not be released: of snippets that are on, those that are not contained.
 *
 * @param find - finds the problem of a code; replaced where somebody watches over it
 */
export function uncontainedParts(
  snapshot: Snapshot,
  find: (code: string, run: () => Containment | undefined) => Containment | undefined = (_code, run) => run(),
): UncontainedPart[] {
  return snapshot.snippets
    .filter((snippet) => snippet.state === 'on')
    .flatMap((snippet) =>
      snippet.parts.flatMap((part, index) => {
        const found = find(
          part.code,
          () => containmentProblem(part.code, part.placement) ?? wrappedProblem(snippet, part),
        );
        return found
          ? [{ ...found, snippet: snippet.key, name: snippet.name, part: partKey(snippet.key, index), index }]
          : [];
      }),
    );
}

/** The same of a part as it goes out where it waits in the browser: what ends its template early is let loose. */
export function wrappedProblem(
  { key, limits }: SnapshotSnippet,
  { code, placement }: SnapshotPart,
): Containment | undefined {
  const wrapped = waitingCode(code, key, limits);
  if (wrapped === code) return undefined;
  return isWrapper(wrapped) ? containmentProblem(wrapped, placement) : LET_LOOSE;
}

/** Code that ends the template around it runs at once, whatever it was to wait for. */
const LET_LOOSE: Containment = {
  problem: 'changes-page',
  get message() {
    return CONTAIN_TEXTS.codeClosesTemplate;
  },
  culprit: undefined,
};

/** Just one template with the code in it, and one script behind it. */
function isWrapper(wrapped: string): boolean {
  try {
    const names = parseFragment(wrapped, { treeAdapter: shallowTree() }).childNodes.map(
      ({ nodeName }) => nodeName,
    );
    return names.join() === 'template,script';
  } catch (error) {
    if (tooMuchOf(error) === undefined) throw error;
    return false;
  }
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
