import type { LoadEvidence, Rectangle, SeenElement } from '../visit/index.js';
import type { LoadCase } from './judge-load.js';
import type { Owner } from './attribution.js';
import { overlapAdvice } from './overlap-advice.js';
import { nameOf } from './rungs/shown.js';

/** Somebody's thing on the page: a snippet's, or the page's own. */
export interface Party {
  /** Null for the page itself. */
  readonly snippet: string | null;
  /** The snippet's name, or what the element says. */
  readonly name: string;
  readonly selector: string;
  readonly box: Rectangle;
}

/** Two things that lie over the page meet. */
export interface Overlap {
  readonly upper: Party;
  readonly lower: Party;
  /** The part that both have. */
  readonly shared: Rectangle;
  /** How they would not meet. */
  readonly advice: string;
}

/** A control that nobody can reach, because something lies on it wherever the page is scrolled to. */
export interface Covered {
  readonly by: Party;
  readonly control: Party;
  /** Pixels of it that are covered. */
  readonly covered: number;
  /** Somebody can close what covers it. */
  readonly canBeClosed: boolean;
}

/** Less is a shadow or a border. */
const LEAST_PIXELS = 4;

/** Which of the things that lie over a page meet, as measured. */
export function overlapsOf({ elements, window }: LoadEvidence, opened: LoadCase): readonly Overlap[] {
  const floating = elements.filter(
    ({ position, isVisible, box }) => position !== 'static' && isVisible && box.width > 8 && box.height > 8,
  );
  const found: Overlap[] = [];
  floating.forEach((first, index) => {
    for (const second of floating.slice(index + 1)) {
      if (isInside(first, second) || isInside(second, first)) continue;
      const shared = intersection(first.box, second.box);
      if (!shared || isSame(opened.ownerOf(first), opened.ownerOf(second))) continue;
      // Where neither covers the other's middle, the later one in the page lies on top.
      const isFirstUpper = second.coveredBy === first.selector;
      const [upper, lower] = isFirstUpper ? [first, second] : [second, first];
      const [one, other] = [partyOf(upper, opened), partyOf(lower, opened)];
      const advice = overlapAdvice({
        upper: { ...one, isBanner: opened.isBanner(one.snippet) },
        lower: { ...other, isBanner: opened.isBanner(other.snippet) },
        boxes: floating.map(({ box }) => box),
        window,
      });
      found.push({ upper: one, lower: other, shared, advice });
    }
  });
  return found;
}

/** Controls of the page and of its snippets that something of somebody else covers. */
export function coveredControls({ covered, elements }: LoadEvidence, opened: LoadCase): readonly Covered[] {
  return covered.flatMap((one): Covered[] => {
    const over = elements.find(({ selector }) => selector === one.coveredBy);
    const by = over
      ? partyOf(over, opened)
      : { snippet: null, name: one.coveredBy, selector: one.coveredBy, box: one.box };
    const home = elements.find(
      ({ selector }) => one.selector !== selector && one.selector.startsWith(`${selector} `),
    );
    const owner = home ? opened.ownerOf(home) : undefined;
    const snippet = owner?.kind === 'snippet' ? owner.snippet : null;
    if (snippet !== null && snippet === by.snippet) return [];
    return [
      {
        by,
        control: { snippet, name: nameOf(one), selector: one.selector, box: one.box },
        covered: one.covered,
        canBeClosed: one.canBeClosed,
      },
    ];
  });
}

function isInside(outer: SeenElement, inner: SeenElement): boolean {
  return inner.selector.startsWith(`${outer.selector} `);
}

/** Two things of one snippet are one thing in two pieces; so are two of the page itself. */
function isSame(a: Owner, b: Owner): boolean {
  if (a.kind === 'snippet' && b.kind === 'snippet') return a.snippet === b.snippet;
  return a.kind !== 'snippet' && b.kind !== 'snippet';
}

function partyOf(element: SeenElement, opened: LoadCase): Party {
  const owner = opened.ownerOf(element);
  const snippet = owner.kind === 'snippet' ? owner.snippet : null;
  const name = snippet === null ? nameOf(element) : opened.nameOf(snippet);
  return { snippet, name, selector: element.selector, box: element.box };
}

function intersection(a: Rectangle, b: Rectangle): Rectangle | undefined {
  const x = Math.max(a.x, b.x);
  const y = Math.max(a.y, b.y);
  const width = Math.min(a.x + a.width, b.x + b.width) - x;
  const height = Math.min(a.y + a.height, b.y + b.height) - y;
  return width < LEAST_PIXELS || height < LEAST_PIXELS ? undefined : { x, y, width, height };
}
