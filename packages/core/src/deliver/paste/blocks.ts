import { isAnchor, isInHead, placementWords, type Placement } from '../../insert/index.js';
import { toPlanned } from '../../plan/index.js';
import { pageAddress, pageMatcher, withoutGroups, type EnvironmentName } from '../../reach/index.js';
import {
  filledSnapshot,
  orderedParts,
  reachOf,
  type PlacedPart,
  type Snapshot,
  type SnapshotSnippet,
} from '../../snapshot/index.js';
import { DELIVER_TEXTS } from '../../texts/deliver.js';
import { say } from '../../texts/say.js';
import { compileParts, isSent, lineHours } from '../one-line/compile.js';
import { GUARD_SCRIPT, RELEASE_SCRIPT } from '../one-line/scripts.js';
import { BOX_KINDS, type Box, type BoxKind } from './box.js';
import { blockDigest, markedBlock } from './marks.js';

/** What is pasted into one box: of the whole site, or of one page. */
export interface PasteBlock {
  readonly box: Box;
  /** The path, for boxes of one page. */
  readonly page: string | null;
  /** Whole, ready to paste. */
  readonly text: string;
  readonly digest: string;
  /** What is in it, in order. */
  readonly parts: readonly { readonly key: string; readonly name: string }[];
  /** Opening hours in it are right up to then; milliseconds since 1970. */
  readonly hoursUntil?: number;
  /** Characters more than the box takes. */
  readonly tooLongBy?: number;
}

/** A part that no box can take, and what to do about it. */
export interface UnpastedPart {
  readonly part: string;
  readonly snippet: string;
  readonly name: string;
  readonly message: string;
}

export interface PasteBlocks {
  readonly blocks: readonly PasteBlock[];
  readonly left: readonly UnpastedPart[];
}

export interface PasteOptions {
  readonly environment: EnvironmentName;
  readonly boxes: readonly Box[];
  /** Number of the release, for the marks. */
  readonly release: number;
  /** Paths of the site's known pages: those that need a block of their own are found among them. */
  readonly pages: readonly string[];
  /** Milliseconds since 1970. */
  readonly now: number;
}

/** Nobody pastes into more pages by hand and gets all of them right. */
const MOST_PAGES = 30;
const DAY_MS = 24 * 60 * 60_000;
/** So far opening hours are written down, and for so long from the same day: a block must not change each time. */
const HOURS_AHEAD_MS = 400 * DAY_MS;
const HOURS_KEPT_MS = 180 * DAY_MS;

/**
 * How a part stands in a block: as it is; written by a small script where its reach holds; or put in by a script
 * elsewhere in the page.
 */
type Mode = 'plain' | 'guarded' | 'moved';

interface Place {
  readonly box: Box;
  readonly pages: readonly (string | null)[];
  readonly mode: Mode;
}

/** The texts to paste into the boxes of a site builder: as few as can be, in the order of the set. */
export function pasteBlocks(snapshot: Snapshot, options: PasteOptions): PasteBlocks {
  const { environment, boxes } = options;
  const filled = filledSnapshot(snapshot, environment);
  const drafts = new Map<string, { box: Box; page: string | null; entries: [PlacedPart, Mode][] }>();
  const left: UnpastedPart[] = [];
  for (const placed of orderedParts(filled)) {
    if (!isSent(placed.snippet, filled.site.consent, environment)) continue;
    const place = placeOf(placed, filled, options);
    if (typeof place === 'string') {
      left.push({
        ...{ part: placed.key, snippet: placed.snippet.key, name: placed.snippet.name },
        message: place,
      });
      continue;
    }
    for (const page of place.pages) {
      const key = `${place.box.kind} ${page ?? ''}`;
      const draft = drafts.get(key) ?? { box: place.box, page, entries: [] };
      draft.entries.push([placed, place.mode]);
      drafts.set(key, draft);
    }
  }
  const rank = ({ box, page }: { box: Box; page: string | null }): string =>
    `${boxes.indexOf(box)} ${page ?? ''}`;
  return {
    blocks: [...drafts.values()]
      .sort((a, b) => (rank(a) < rank(b) ? -1 : 1))
      .map((draft) => toBlock(draft, filled, options)),
    left,
  };
}

/** Where a part goes, or why it cannot. */
function placeOf(placed: PlacedPart, snapshot: Snapshot, options: PasteOptions): Place | string {
  const { snippet, part } = placed;
  const box = (kind: BoxKind): Box | undefined => {
    const found = options.boxes.find((one) => one.kind === kind);
    return found && (!found.stripsScripts || !needsScript(placed, kind)) ? found : undefined;
  };
  const guarded = (isOfPage: boolean): Mode => (isBounded(snippet, isOfPage) ? 'guarded' : 'plain');
  const forAll = (kind: BoxKind, mode: Mode = guarded(false)): Place | undefined => {
    const found = box(kind);
    return found && { box: found, pages: [null], mode };
  };
  const pages = pagesOf(snippet, snapshot, options.pages);
  const each = (kind: BoxKind): Place | undefined => {
    const found = box(kind);
    if (!found || pages.length === 0 || pages.length > MOST_PAGES) return undefined;
    return { box: found, pages, mode: guarded(true) };
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
  return whyNot(snippet, placement, pages.length, options.boxes);
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

function whyNot(
  { name }: SnapshotSnippet,
  placement: Placement,
  pages: number,
  boxes: readonly Box[],
): string {
  const where = placementWords(placement);
  if (boxes.some(({ stripsScripts }) => stripsScripts)) return say(DELIVER_TEXTS.boxStrips, { name, where });
  if (pages > MOST_PAGES && boxes.some(({ kind }) => !BOX_KINDS[kind].isForAll))
    return say(DELIVER_TEXTS.tooManyPages, { name, pages, most: MOST_PAGES });
  return say(isInHead(placement) ? DELIVER_TEXTS.noHeadBox : DELIVER_TEXTS.noBodyBox, { name, where });
}

function toBlock(
  { box, page, entries }: { box: Box; page: string | null; entries: readonly [PlacedPart, Mode][] },
  { site }: Snapshot,
  { release, now }: PasteOptions,
): PasteBlock {
  const pieces: string[] = [];
  const since = Math.floor(now / HOURS_KEPT_MS) * HOURS_KEPT_MS;
  const hasRuntime = { guarded: false, moved: false };
  let hasHours = false;
  for (const [mode, placed] of groupsOf(entries)) {
    const group = page === null ? placed : placed.map(ofThisPage);
    if (mode === 'plain') pieces.push(...group.map((placed) => toPlanned(placed).code.trim()));
    else {
      const compiled = compileParts(site, group);
      hasHours ||= compiled.hours.length > 0;
      const live = [0, 0, lineHours(compiled, since, HOURS_AHEAD_MS)];
      const data = `${inlined(compiled.release)},${inlined(live)}`;
      pieces.push(mode === 'guarded' ? guard(data, hasRuntime.guarded) : mover(data));
      hasRuntime[mode] = true;
    }
  }
  const body = pieces.join('\n');
  const digest = blockDigest(body);
  const mark = { site: site.key, release, box: box.kind, digest };
  const text = markedBlock(body, mark, box.stripsComments === true);
  const over = box.maxLength === undefined ? 0 : text.length - box.maxLength;
  return {
    ...{ box, page, text, digest },
    parts: entries.map(([{ key, snippet }]) => ({ key, name: snippet.name })),
    ...(hasHours ? { hoursUntil: since + HOURS_AHEAD_MS } : {}),
    ...(over > 0 ? { tooLongBy: over } : {}),
  };
}

/** Neighbours of one mode; what is put in elsewhere is put in by one script, whatever stands between. */
function groupsOf(entries: readonly [PlacedPart, Mode][]): [Mode, PlacedPart[]][] {
  const groups: [Mode, PlacedPart[]][] = [];
  for (const [placed, mode] of entries) {
    const last = mode === 'moved' ? groups.find(([one]) => one === mode) : groups.at(-1);
    if (last?.[0] === mode) last[1].push(placed);
    else groups.push([mode, [placed]]);
  }
  return groups;
}

/** In a block of one page nothing is left to ask of the page. */
function ofThisPage(placed: PlacedPart): PlacedPart {
  return { ...placed, snippet: { ...placed.snippet, pages: { include: [], exclude: [] } } };
}

function guard(data: string, isThere: boolean): string {
  const runtime = isThere ? '' : `document.pgmIf=${asInline(GUARD_SCRIPT)}();`;
  return `<script>${runtime}document.pgmIf(${data})</script>`;
}

/** The script of the one line, with its own data, and a page memory of its own. */
function mover(data: string): string {
  return `<script>try{${asInline(RELEASE_SCRIPT)}()(${data})}catch(e){}</script>`;
}

/** As it may stand in a script element (HTML Standard, 4.12.1.3). */
function asInline(script: string): string {
  return script.replace(/<(?=\/script|!--|script)/gi, '\\x3c');
}

function inlined(value: unknown): string {
  return JSON.stringify(value).replaceAll('<', '\\u003c');
}
