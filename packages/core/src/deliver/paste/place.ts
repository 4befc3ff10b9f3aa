import { isAnchor, isInHead, placementWords, type Placement } from '../../insert/index.js';
import { pageAddress, pageMatcher, withoutGroups } from '../../reach/index.js';
import { reachOf, type PlacedPart, type Snapshot, type SnapshotSnippet } from '../../snapshot/index.js';
import { DELIVER_TEXTS } from '../../texts/deliver.js';
import { say } from '../../texts/say.js';
import { BOX_KINDS, type Box, type BoxKind } from './box.js';

/** Nobody pastes into more pages by hand and gets all of them right. */
export const MOST_PAGES = 30;

/**
 * How a part stands in a block: as it is; written by a small script where its reach holds; or put in by a script
 * elsewhere in the page.
 */
export type Mode = 'plain' | 'guarded' | 'moved';

export interface Place {
  readonly box: Box;
  readonly pages: readonly (string | null)[];
  readonly mode: Mode;
}

/** Why no box can take a part. */
export type NoBoxReason = 'no-head-box' | 'no-body-box' | 'strips-scripts' | 'too-many-pages';

export interface NoPlace {
  readonly reason: NoBoxReason;
  /** How many pages it would have to be pasted into. */
  readonly pages: number;
}

/** What there is to paste into. */
interface Possible {
  readonly boxes: readonly Box[];
  /** Paths of the site's known pages. */
  readonly pages: readonly string[];
}

/** Where a part goes, or why it cannot. */
export function placeOf(placed: PlacedPart, snapshot: Snapshot, options: Possible): Place | NoPlace {
  const { snippet, part } = placed;
  const box = (kind: BoxKind): Box | undefined => {
    const found = options.boxes.find((one) => one.kind === kind);
    return found && (!found.stripsScripts || !needsScript(placed, kind)) ? found : undefined;
  };
  const guarded = (isOfPage: boolean): Mode => (isBounded(snippet, isOfPage) ? 'guarded' : 'plain');
  const forAll = (kind: BoxKind, mode: Mode = guarded(false)): Place | undefined => {
    const own = box(kind);
    return own && { box: own, pages: [null], mode };
  };
  // Most boxes are for all pages, and a site may have very many.
  let found: readonly string[] | undefined;
  const pagesInReach = (): readonly string[] => (found ??= pagesOf(snippet, snapshot, options.pages));
  const each = (kind: BoxKind): Place | undefined => {
    const own = box(kind);
    const pages = own ? pagesInReach() : [];
    if (!own || pages.length === 0 || pages.length > MOST_PAGES) return undefined;
    return { box: own, pages, mode: guarded(true) };
  };
  const { placement } = part;
  const ways: readonly (() => Place | undefined)[] = isInHead(placement)
    ? [() => forAll('site-head'), () => each('page-head')]
    : placement === 'body-end'
      ? [() => forAll('site-foot'), () => each('page-content'), () => forAll('site-head', 'moved')]
      : [
          ...(isAnchor(placement) ? [() => each('page-content')] : []),
          () => forAll('site-foot', 'moved'),
          () => forAll('site-head', 'moved'),
        ];
  for (const way of ways) {
    const place = way();
    if (place) return place;
  }
  const pages = pagesInReach().length;
  return { reason: whyNot(placement, pages, options.boxes), pages };
}

/** Where its code has scripts, and where only a script can bring it about. */
function needsScript({ snippet, part }: PlacedPart, kind: BoxKind): boolean {
  return (
    /<script\b/i.test(part.code) ||
    snippet.limits?.visitor !== undefined ||
    isBounded(snippet, !BOX_KINDS[kind].isForAll)
  );
}

/** Whether there is anything to ask before it runs. @param isOfPage - the page is the right one already */
function isBounded(snippet: SnapshotSnippet, isOfPage: boolean): boolean {
  const { pages, devices, hours, consent } = reachOf(snippet);
  const hasPages = pages.include.length > 0 || pages.exclude.length > 0;
  return devices !== undefined || hours !== undefined || consent !== undefined || (hasPages && !isOfPage);
}

function pagesOf(snippet: SnapshotSnippet, { site }: Snapshot, known: readonly string[]): string[] {
  const matcher = pageMatcher(withoutGroups(reachOf(snippet).pages, site.pageGroups ?? []));
  return known.filter((path) => matcher.match(pageAddress(path)).matches);
}

function whyNot(placement: Placement, pages: number, boxes: readonly Box[]): NoBoxReason {
  if (boxes.some(({ stripsScripts }) => stripsScripts)) return 'strips-scripts';
  if (pages > MOST_PAGES && boxes.some(({ kind }) => !BOX_KINDS[kind].isForAll)) return 'too-many-pages';
  return isInHead(placement) ? 'no-head-box' : 'no-body-box';
}

/** Why a part cannot be pasted, and what to do, in words. */
export function noPlaceWords({ snippet, part }: PlacedPart, { reason, pages }: NoPlace): string {
  const { name } = snippet;
  const where = placementWords(part.placement);
  switch (reason) {
    case 'strips-scripts':
      return say(DELIVER_TEXTS.boxStrips, { name, where });
    case 'too-many-pages':
      return say(DELIVER_TEXTS.tooManyPages, { name, pages, most: MOST_PAGES });
    case 'no-head-box':
      return say(DELIVER_TEXTS.noHeadBox, { name, where });
    case 'no-body-box':
      return say(DELIVER_TEXTS.noBodyBox, { name, where });
  }
}
