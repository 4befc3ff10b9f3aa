import { Anchor } from './machine/anchors.js';
import { Event, LeftOut, Places } from './machine/state.js';
import type { PreparedPart } from './prepare.js';
import { reasonWords, type LeftOutReason } from './reasons.js';
import type { NamedPlacement } from './placements.js';
import type { InsertOutcome } from './types.js';

/** An event of the machine, with the page's offset. */
export interface ScanEvent {
  readonly kind: number;
  readonly offset: number;
  readonly first: number;
  readonly second: number;
}

export const PLACE_BITS: Readonly<Record<NamedPlacement, number>> = {
  'head-start': Places.HeadStart,
  'head-end': Places.HeadEnd,
  'body-start': Places.BodyStart,
  'body-end': Places.BodyEnd,
};

export const LEFT_OUT_REASONS: Readonly<Record<number, LeftOutReason>> = {
  [LeftOut.Unfinished]: 'unfinished',
  [LeftOut.Template]: 'inside-template',
  [LeftOut.Foreign]: 'inside-foreign',
};

/** Events of the body, which a frameset may still replace. */
export function isOfBody(kind: number): boolean {
  return (
    kind === Event.BodyStart ||
    kind === Event.BodyEnd ||
    kind === Event.Before ||
    kind === Event.Inside ||
    kind === Event.LeftOut
  );
}

export function leftOut(key: string, reason: LeftOutReason): InsertOutcome {
  return { key, inserted: false, reason, message: reasonWords(reason) };
}

/** Whether a part can stand at an anchor without changing the page around it. */
export function fitsAt(part: PreparedPart, verdict: number): boolean {
  if ((verdict & Anchor.Refused) !== 0) return false;
  if (part.isScript) return true;
  if ((verdict & (Anchor.ScriptOnly | Anchor.Reopens)) !== 0) return false;
  return (verdict & Anchor.InParagraph) === 0 || !part.endsParagraph;
}
