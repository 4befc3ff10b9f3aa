import type { FoundLine, LineForm } from '../deliver/index.js';
import { insert, isInHead, placementWords, type InsertOptions } from '../insert/index.js';
import type { PagePlan, PlannedPart } from '../plan/index.js';
import { VERIFY_TEXTS } from '../texts/verify.js';
import { say } from '../texts/say.js';
import { countInPage, partDelivery, type DeliveryState, type PartDelivery } from './delivered.js';

/** What a line in a page loads. */
export interface LoadedLine {
  /** Why it cannot be loaded, in words; null where it was. */
  readonly problem: string | null;
  /** It brings the release that should be served. */
  readonly isCurrent: boolean;
}

export interface ExpectedLine {
  /** The form in which it should stand there. */
  readonly form: LineForm;
  readonly release: number;
  /** Those that stand in the page, see `findLines`. */
  readonly lines: readonly FoundLine[];
  /** What the first of them loads. */
  readonly loaded: LoadedLine | undefined;
}

/**
 * Whether a page gets the parts of its plan by the one line: it stands there, in time, once, loads the release, and
 * nothing that it brings stands in the page itself.
 *
 * @param page - the received bytes, decoded from their content encoding
 */
export function checkLine(
  plan: PagePlan,
  page: Uint8Array,
  expected: ExpectedLine,
  options: InsertOptions = {},
): PartDelivery[] {
  const { outcomes } = insert(page, plan.parts, options);
  return plan.parts.map((part, index) => {
    const [state, message] = stateOf(part, page, expected, options);
    const outcome = outcomes[index]!;
    // An element that the page does not come with is waited for: a script may make it.
    if (state === 'delivered' && !outcome.inserted)
      return partDelivery(part, 'left-out', say(VERIFY_TEXTS.lineWaits, { reason: outcome.message }));
    return partDelivery(part, state, message);
  });
}

function stateOf(
  part: PlannedPart,
  page: Uint8Array,
  { form, release, lines, loaded }: ExpectedLine,
  options: InsertOptions,
): [DeliveryState, string] {
  const [line] = lines;
  if (!line || !loaded) return ['missing', VERIFY_TEXTS.lineMissing];
  const { src } = line;
  if (loaded.problem !== null)
    return ['missing', say(VERIFY_TEXTS.lineDown, { src, problem: loaded.problem })];
  if (!loaded.isCurrent)
    return [
      'missing',
      say(line.digest === null ? VERIFY_TEXTS.lineBehind : VERIFY_TEXTS.linePinned, { src, release }),
    ];
  if (countInPage(part, page, options) > 0) return ['twice', VERIFY_TEXTS.lineAndPage];
  if (lines.length > 1) return ['twice', say(VERIFY_TEXTS.lineTwice, { count: lines.length })];
  const isHeld = form === 'order' && isInHead(part.placement);
  if (isHeld && line.form === 'async') return ['wrong-place', VERIFY_TEXTS.lineAsync];
  if (isHeld && !line.isInHead) return ['wrong-place', VERIFY_TEXTS.lineInBody];
  return ['delivered', say(VERIFY_TEXTS.byLine, { placement: placementWords(part.placement) })];
}
