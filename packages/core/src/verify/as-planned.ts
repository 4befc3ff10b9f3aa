import { insert } from '../insert/index.js';
import type { PagePlan } from '../plan/index.js';
import { nonceIn, noncePieces, withNonce } from '../policy/index.js';
import type { PlacedPart } from '../snapshot/index.js';
import { withoutParts } from './without-parts.js';

/**
 * A page as it would come with another plan: what was put in is taken out, and the plan's parts are put in.
 *
 * @param placed - the parts that may have been put in
 * @param headers - of the page, names in lower case
 */
export function asPlanned(
  html: string,
  placed: readonly PlacedPart[],
  plan: PagePlan,
  headers: Readonly<Record<string, string>>,
): string {
  const nonce = nonceIn(headers['content-security-policy'] ?? '');
  const parts =
    nonce === undefined
      ? plan.parts
      : plan.parts.map((part) => ({ ...part, code: withNonce(noncePieces(part.code), nonce) }));
  const { page } = insert(withoutParts(html, placed, headers), parts);
  return new TextDecoder().decode(page);
}
