import { toPlanned } from '../plan/index.js';
import { nonceIn, noncePieces, withNonce } from '../policy/index.js';
import type { PlacedPart } from '../snapshot/index.js';

/**
 * A page as it would be without some parts: what was put in is taken out again, wherever it stands.
 *
 * @param headers - of the page, names in lower case
 */
export function withoutParts(
  html: string,
  parts: readonly PlacedPart[],
  headers: Readonly<Record<string, string>>,
): string {
  const nonce = nonceIn(headers['content-security-policy'] ?? '');
  // Longer codes first: one part may be written within another.
  const codes = parts
    .flatMap((placed) => [toPlanned(placed).code, placed.part.code])
    .filter((code) => code !== '')
    .flatMap((code) => (nonce === undefined ? [code] : [withNonce(noncePieces(code), nonce), code]))
    .sort((a, b) => b.length - a.length);
  return codes.reduce((page, code) => page.split(code).join(''), html);
}
