import { findBlocks } from '../deliver/index.js';
import { insert } from '../insert/index.js';
import type { PagePlan } from '../plan/index.js';
import { nonceIn, noncePieces, withNonce } from '../policy/index.js';
import type { PlacedPart } from '../snapshot/index.js';
import { withoutParts } from './without-parts.js';

/**
 * A page as it would come with another plan: what was put in or pasted is taken out, and the plan's parts are put in.
 *
 * @param site - key of the site, whose pasted blocks go
 * @param placed - the parts that may have been put in
 * @param headers - of the page, names in lower case
 */
export function asPlanned(
  html: string,
  site: string,
  placed: readonly PlacedPart[],
  plan: PagePlan,
  headers: Readonly<Record<string, string>>,
): string {
  const nonce = nonceIn(headers['content-security-policy'] ?? '');
  const parts =
    nonce === undefined
      ? plan.parts
      : plan.parts.map((part) => ({ ...part, code: withNonce(noncePieces(part.code), nonce) }));
  const { page } = insert(barePage(html, site, placed, headers), parts);
  return new TextDecoder().decode(page);
}

/** A page as it would come without anything of ours. The parameters are those of `asPlanned`. */
export function barePage(
  html: string,
  site: string,
  placed: readonly PlacedPart[],
  headers: Readonly<Record<string, string>>,
): string {
  return withoutParts(withoutBlocks(html, site), placed, headers);
}

function withoutBlocks(html: string, site: string): string {
  return findBlocks(html)
    .filter((block) => block.site === site && block.state !== 'cut')
    .reverse()
    .reduce((page, { range }) => page.slice(0, range.start) + page.slice(range.end), html);
}
