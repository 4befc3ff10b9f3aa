import { Anchor } from './machine/place-bits.js';
import { Event, LeftOut, Places } from './machine/state.js';
import type { PreparedPart } from './prepare.js';
import { reasonWords, type LeftOutReason } from './reasons.js';
import type { AnchorSide, NamedPlacement } from './placements.js';
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

/** Events at elements, by what they tell of. */
export const SIDES: Readonly<Partial<Record<number, AnchorSide>>> = {
  [Event.Before]: 'before',
  [Event.Inside]: 'inside',
  [Event.InsideEnd]: 'inside-end',
  [Event.After]: 'after',
};

/** Events of the body, which a frameset may still replace. */
export function isOfBody(kind: number): boolean {
  return (
    kind === Event.BodyStart ||
    kind === Event.BodyEnd ||
    kind === Event.Before ||
    kind === Event.Inside ||
    kind === Event.InsideEnd ||
    kind === Event.After ||
    kind === Event.LeftOut
  );
}

export function leftOut(key: string, reason: LeftOutReason): InsertOutcome {
  return { key, inserted: false, reason, message: reasonWords(reason) };
}

/** Whether a part can stand at an anchor without changing the page around it. */
export function fitsAt(part: PreparedPart, verdict: number): boolean {
  if ((verdict & Anchor.Refused) !== 0) return false;
  if ((verdict & Anchor.InHead) !== 0) return part.isOfHead;
  if (part.isScript) return true;
  if ((verdict & (Anchor.ScriptOnly | Anchor.Reopens)) !== 0) return false;
  return (verdict & Anchor.InParagraph) === 0 || !part.endsParagraph;
}
