import { say } from '../texts/say.js';
import { DAMAGE_TEXTS as T } from '../texts/damage.js';
import type { LoadEvidence } from '../visit/index.js';
import { controlKey, goneControls, isMissing } from './gone-controls.js';
import { blockingOf, shiftOf } from './load-totals.js';

/** What is wrong with a page as a visitor has it. */
export interface Symptom {
  /** For programs; equal symptoms of two visits have the same one. */
  readonly id: string;
  readonly message: string;
  /** How bad: a page that cannot be used, one that is worse, one that complains. */
  readonly weight: 3 | 2 | 1;
  /** The key of the control that is gone. */
  readonly control?: string;
}

/** Text that is gone: less than so much of it is left. */
const LEFT_SHARE = 0.6;
const LEAST_TEXT = 80;
/** What the Layout Instability work of browsers calls poor. */
const POOR_SHIFT = 0.25;
const LONG_BLOCK_MS = 1_500;
const SLOWER_MS = 3_000;

/**
 * What is wrong with a page that is not wrong with another load of it.
 *
 * @param load - with everything in it
 * @param bare - without our snippets, or without one of them
 */
export function damageOf(load: LoadEvidence, bare: LoadEvidence): readonly Symptom[] {
  const found: Symptom[] = [];
  const add = (id: string, weight: Symptom['weight'], message: string): void => {
    found.push({ id, weight, message });
  };
  if (load.isHung && !bare.isHung) add('hung', 3, T.hung);
  const isElsewhere = samePage(load.finalUrl) !== samePage(bare.finalUrl);
  if (isElsewhere) add('elsewhere', 3, say(T.elsewhere, { address: load.finalUrl }));
  if (
    !load.isHung &&
    !bare.isHung &&
    bare.readable >= LEAST_TEXT &&
    load.readable < bare.readable * LEFT_SHARE
  )
    add('text-gone', 3, say(T.textGone, { left: Math.round((load.readable / bare.readable) * 100) }));
  const controls = isElsewhere ? [] : goneControls(load, bare);
  if (controls[0]) {
    const { length: count, 0: first } = controls;
    const message = say(T.controlsGone, { count, first: first.name, rest: count - 1 });
    found.push({ id: 'gone', weight: 3, message, control: controlKey(first) });
  }
  const before = new Set(bare.covered.map(({ selector }) => selector));
  // What somebody can close is in the way, and breaks nothing.
  const covered = load.covered.filter(({ selector, canBeClosed }) => !canBeClosed && !before.has(selector));
  if (covered.length > 0)
    add(
      'covered',
      2,
      say(T.covered, {
        count: covered.length,
        first: covered[0]!.text || covered[0]!.tag,
        by: covered[0]!.coveredBy,
      }),
    );
  const known = new Set(bare.exceptions.map(errorKey));
  for (const error of load.exceptions)
    if (!known.has(errorKey(error))) {
      known.add(errorKey(error));
      add(`error ${errorKey(error)}`, 1, say(T.error, { message: error.message }));
    }
  const gone = goneStyles(load, bare);
  if (gone.length > 0) add('styles', 2, say(T.styles, { count: gone.length }));
  const kept = keptOut(load, bare);
  if (kept[0] !== undefined) add('kept-out', 2, say(T.keptOut, { count: kept.length, first: kept[0] }));
  if (shiftOf(load) - shiftOf(bare) > POOR_SHIFT) add('shifts', 2, T.shifts);
  const blocked = blockingOf(load) - blockingOf(bare);
  if (blocked > LONG_BLOCK_MS) add('blocked', 2, say(T.blocked, { seconds: Math.round(blocked / 100) / 10 }));
  const later = (load.readyMs ?? load.endMs) - (bare.readyMs ?? 0);
  if (bare.readyMs !== undefined && later > SLOWER_MS)
    add('slow', 2, say(T.slow, { seconds: Math.round(later / 100) / 10 }));
  if (Math.abs(load.size.width - bare.size.width) > 40 && load.size.width > bare.size.width)
    add('wide', 1, say(T.wide, { pixels: Math.round(load.size.width - bare.size.width) }));
  return found.sort((a, b) => b.weight - a.weight);
}

/**
 * Whether a symptom of one load is there in another one, as in a visit without a snippet that may have caused it. What stands in the
 * place of a lost control depends on who else is there, so only the control counts.
 */
export function hasSymptom(
  { id, control }: Pick<Symptom, 'id' | 'control'>,
  load: LoadEvidence,
  bare: LoadEvidence,
): boolean {
  return control === undefined
    ? damageOf(load, bare).some((one) => one.id === id)
    : isMissing(control, load, bare);
}

/** Whether a page may have a symptom by chance: its own buttons may be others each time that it is opened. */
export function mayVary({ control }: Pick<Symptom, 'control'>): boolean {
  return control !== undefined;
}

function samePage(url: string): string {
  const { origin, pathname } = new URL(url);
  return origin + pathname;
}

function errorKey({ message }: { readonly message: string }): string {
  return message.replace(/\d+/g, '#').slice(0, 120);
}

/** Files that a page gets, and that a policy keeps out of the other load of it. What else fails may fail by chance. */
function keptOut({ requests }: LoadEvidence, bare: LoadEvidence): readonly string[] {
  const well = new Set(
    bare.requests
      .filter(({ failure, status = 0 }) => failure === undefined && status < 400)
      .map(({ url }) => url),
  );
  const kept = requests.filter(
    ({ kind, failure, url }) => kind !== 'style' && failure === 'policy' && well.has(url),
  );
  return [...new Set(kept.map(({ url }) => url))];
}

/** Style sheets of the page's own that one load got and the other did not. */
function goneStyles(load: LoadEvidence, bare: LoadEvidence): readonly string[] {
  const well = ({ requests }: LoadEvidence): Set<string> =>
    new Set(
      requests
        .filter(({ kind, failure, status = 0 }) => kind === 'style' && failure === undefined && status < 400)
        .map(({ url }) => url),
    );
  const now = well(load);
  return [...well(bare)].filter((url) => !now.has(url));
}
