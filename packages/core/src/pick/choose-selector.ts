import { insert, readAnchor, reasonWords, type AnchorSide, type InsertPart } from '../insert/index.js';
import { bodyElements } from './mark-elements.js';
import { candidatesFor, type Candidate } from './candidates.js';

/** A page as text. */
export interface PageText {
  readonly path: string;
  readonly html: string;
}

export interface ElementToName {
  readonly page: PageText;
  /** Where the element's start tag begins in the page, in UTF-16 code units. */
  readonly start: number;
  readonly side: AnchorSide;
  readonly code: string;
  /** Other pages on which the code is to run. */
  readonly others: readonly PageText[];
}

export interface NamedElement {
  /** `#id`, or a selector. */
  readonly selector: string;
  /** Paths of pages that have a place for the code there, and of those that have none. */
  readonly holdsOn: readonly string[];
  readonly missingOn: readonly string[];
}

const MAX_CHOICES = 4;

/**
 * Selectors by which insertion finds an element of a page, the best first: those that hold on the most pages, then those
 * that lean least on how the page is built, then the shortest.
 *
 * @returns none, with a reason, where the code can stand at no such place
 */
export function chooseSelector({ page, start, side, code, others }: ElementToName): {
  readonly choices: readonly NamedElement[];
  readonly reason: string | undefined;
} {
  const found = bodyElements(page.html).find((one) => one.start === start);
  if (!found) return { choices: [], reason: reasonWords('no-anchor') };
  const candidates = candidatesFor(found.element);
  const naming = named(page.html, candidates, start, found.startTagEnd);
  const meaning = candidates.filter((_, index) => naming.has(index));
  const fitting = placedBy(page.html, meaning, side, code);
  const able = meaning.filter((_, index) => fitting.has(index));
  if (able.length === 0)
    return { choices: [], reason: reasonWords(meaning.length === 0 ? 'no-anchor' : 'anchor-refused') };
  const holding = others.map(({ path, html }) => ({ path, indices: placedBy(html, able, side, code) }));
  const choices = able.map(({ selector, frailty }, index) => {
    const holdsOn = holding.filter(({ indices }) => indices.has(index)).map(({ path }) => path);
    const missingOn = holding.filter(({ indices }) => !indices.has(index)).map(({ path }) => path);
    return { selector, frailty, holdsOn: [page.path, ...holdsOn], missingOn };
  });
  choices.sort(
    (a, b) =>
      b.holdsOn.length - a.holdsOn.length || a.frailty - b.frailty || a.selector.length - b.selector.length,
  );
  // One that holds on fewer pages is worth a look only where it leans on less.
  const [best] = choices;
  const worthIt = choices.filter(
    ({ holdsOn, frailty }) => holdsOn.length === best!.holdsOn.length || frailty < best!.frailty,
  );
  return {
    choices: worthIt.slice(0, MAX_CHOICES).map(({ frailty: _, ...choice }) => choice),
    reason: undefined,
  };
}

/** What becomes of code at a place, page by page. */
export function placeOnPages(
  placement: InsertPart['placement'],
  code: string,
  pages: readonly PageText[],
): readonly { readonly path: string; readonly message: string | null }[] {
  return pages.map(({ path, html }) => {
    const [outcome] = insert(html, [{ key: 'part', placement, code }]).outcomes;
    return { path, message: outcome!.inserted ? null : outcome!.message };
  });
}

const PROBE = '<script></script>';

/** Which of the selectors find the element whose start tag lies there. */
function named(
  html: string,
  candidates: readonly Candidate[],
  start: number,
  end: number,
): ReadonlySet<number> {
  const bytes = new TextEncoder();
  const offsets: Readonly<Record<'before' | 'inside', number>> = {
    before: bytes.encode(html.slice(0, start)).length,
    inside: bytes.encode(html.slice(0, end)).length,
  };
  const found = new Set<number>();
  for (const side of ['before', 'inside'] as const) {
    const { outcomes } = insert(html, partsOf(candidates, side, PROBE));
    outcomes.forEach((outcome, index) => {
      if (outcome.inserted && outcome.offset === offsets[side]) found.add(index);
    });
  }
  return found;
}

/** Which of the selectors have a place for the code. */
function placedBy(
  html: string,
  candidates: readonly Candidate[],
  side: AnchorSide,
  code: string,
): ReadonlySet<number> {
  const { outcomes } = insert(html, partsOf(candidates, side, code));
  return new Set(outcomes.flatMap(({ inserted }, index) => (inserted ? [index] : [])));
}

function partsOf(candidates: readonly Candidate[], side: AnchorSide, code: string): InsertPart[] {
  return candidates.map(({ selector }, index) => ({
    key: String(index),
    placement: readAnchor(selector, side),
    code,
  }));
}
