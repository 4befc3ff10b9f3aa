import { toPlanned } from '../../plan/index.js';
import type { PlacedPart, Snapshot } from '../../snapshot/index.js';
import { compileParts, lineHours } from '../one-line/compile.js';
import { releaseCall } from '../one-line/release-call.js';
import { GUARD_SCRIPT } from '../one-line/scripts.js';
import type { LineRelease } from '../one-line/types.js';
import type { Box } from './box.js';
import { blockDigest, markedBlock } from './marks.js';
import type { Mode } from './place.js';

const DAY_MS = 24 * 60 * 60_000;
/** So far opening hours are written down, and for so long from the same day: a block must not change each time. */
const HOURS_AHEAD_MS = 400 * DAY_MS;
const HOURS_KEPT_MS = 180 * DAY_MS;

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

/** What goes into one box, before it is written. */
export interface BlockDraft {
  readonly box: Box;
  readonly page: string | null;
  readonly entries: readonly [PlacedPart, Mode][];
}

/** @param now - milliseconds since 1970 */
export function writeBlock(
  { box, page, entries }: BlockDraft,
  { site }: Snapshot,
  { release, now }: { readonly release: number; readonly now: number },
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
      pieces.push(mode === 'guarded' ? guard(data, hasRuntime.guarded) : mover(compiled.release));
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

/** The script of the one line, with its own data. Where the line stands in the page as well, it does nothing. */
function mover(release: LineRelease): string {
  return `<script>try{${asInline(releaseCall(release, inlined(release)))}}catch(e){}</script>`;
}

/** As it may stand in a script element (HTML Standard, 4.12.1.3). */
function asInline(script: string): string {
  return script.replace(/<(?=\/script|!--|script)/gi, '\\x3c');
}

function inlined(value: unknown): string {
  return JSON.stringify(value).replaceAll('<', '\\u003c');
}
