import { concatBytes } from '../insert/bytes.js';
import {
  insert,
  pageEncoding,
  placementWords,
  reasonWords,
  writtenCode,
  type InsertOptions,
} from '../insert/index.js';
import type { PagePlan, PlannedPart } from '../plan/index.js';
import { VERIFY_TEXTS } from '../texts/verify.js';
import { say } from '../texts/say.js';

export type DeliveryState = 'delivered' | 'missing' | 'wrong-place' | 'twice' | 'left-out';

export interface PartDelivery {
  readonly part: string;
  readonly snippet: string;
  readonly name: string;
  readonly state: DeliveryState;
  readonly message: string;
}

/**
 * Compares a page as a visitor received it with its page plan, exactly: every part's code is taken out of the page,
 * and the parts are put in again. A part is delivered if its code stood just where insertion puts it.
 *
 * @param page - the received bytes, decoded from their content encoding
 */
export function checkDelivery(plan: PagePlan, page: Uint8Array, options: InsertOptions = {}): PartDelivery[] {
  const encoding = pageEncoding(page, options.encoding);
  const found = plan.parts.map((part) => {
    const code = writtenCode(part.code, encoding) ?? new Uint8Array(0);
    return { part, length: code.length, at: occurrences(page, code) };
  });
  const cuts = withoutOverlaps(
    found.flatMap(({ length, at }) => at.map((start) => ({ start, end: start + length }))),
  );
  const stripped = cutOut(page, cuts);
  const { outcomes } = insert(stripped, plan.parts, options);
  const kept = new Map(cuts.map(({ start, end }) => [start, end]));
  return found.map(({ part, length, at: all }, index) => {
    const outcome = outcomes[index]!;
    // What stands within another part's code is that part's.
    const at = all.filter((start) => kept.get(start) === start + length);
    if (at.length > 1) {
      return partDelivery(part, 'twice', say(VERIFY_TEXTS.codeStandsPage, { count: at.length }));
    }
    if (at.length === 0) {
      if (!outcome.inserted) return partDelivery(part, 'left-out', outcome.message);
      return partDelivery(part, 'missing', VERIFY_TEXTS.codeNotPage);
    }
    const place = at[0]! - removedBefore(cuts, at[0]!);
    if (outcome.inserted && isSamePlace(stripped, outcome.offset, place))
      return partDelivery(
        part,
        'delivered',
        say(VERIFY_TEXTS.standsPlacement, { placement: placementWords(part.placement) }),
      );
    const found = say(VERIFY_TEXTS.wasFoundByte, { at: at[0]! });
    const message = outcome.inserted
      ? say(VERIFY_TEXTS.shouldStandPlacement, { placement: placementWords(part.placement), found })
      : say(VERIFY_TEXTS.reasonAllSame, { reason: reasonWords(outcome.reason), found });
    return partDelivery(part, 'wrong-place', message);
  });
}

/** What is said of a part on a page. */
export function partDelivery(part: PlannedPart, state: DeliveryState, message: string): PartDelivery {
  return { part: part.key, snippet: part.snippet, name: part.name, state, message };
}

/** How often a part's code stands in a page. */
export function countInPage(part: PlannedPart, page: Uint8Array, options: InsertOptions = {}): number {
  const code = writtenCode(part.code, pageEncoding(page, options.encoding));
  return code ? occurrences(page, code).length : 0;
}

/** Tags that insertion itself writes in front of a part do not make it another place. */
function isSamePlace(page: Uint8Array, expected: number, actual: number): boolean {
  if (expected === actual) return true;
  if (actual < expected) return false;
  const between = new TextDecoder().decode(page.subarray(expected, actual));
  return /^(?:<head>|<body>|<\/(?!head>|body>|html>)[a-z][a-z0-9]*>)$/.test(between);
}

function occurrences(page: Uint8Array, code: Uint8Array): number[] {
  const at: number[] = [];
  if (code.length === 0) return at;
  for (let i = page.indexOf(code[0]!); i >= 0; i = page.indexOf(code[0]!, i + 1)) {
    if (i + code.length > page.length) break;
    let matched = 1;
    while (matched < code.length && page[i + matched] === code[matched]) matched++;
    if (matched === code.length) {
      at.push(i);
      i += code.length - 1;
    }
  }
  return at;
}

interface Cut {
  readonly start: number;
  readonly end: number;
}

function withoutOverlaps(cuts: readonly Cut[]): Cut[] {
  const kept: Cut[] = [];
  for (const cut of [...cuts].sort((a, b) => a.start - b.start || b.end - a.end)) {
    if (cut.start >= (kept.at(-1)?.end ?? 0)) kept.push(cut);
  }
  return kept;
}

function cutOut(page: Uint8Array, cuts: readonly Cut[]): Uint8Array {
  const pieces: Uint8Array[] = [new Uint8Array(0)];
  let from = 0;
  for (const cut of cuts) {
    pieces.push(page.subarray(from, cut.start));
    from = cut.end;
  }
  pieces.push(page.subarray(from));
  return concatBytes(pieces);
}

function removedBefore(cuts: readonly Cut[], offset: number): number {
  return cuts.reduce((sum, cut) => (cut.end <= offset ? sum + cut.end - cut.start : sum), 0);
}
