import { prepareParts, type PreparedParts } from '../insert/index.js';
import { noncePieces, withNonce, type NoncePieces } from './with-nonce.js';

const cut = new WeakMap<PreparedParts, readonly NoncePieces[]>();

/**
 * Parts whose tags carry a nonce. Where to write it is found once; what is made is for one answer.
 *
 * @param nonce - characters of base64
 */
export function partsWithNonce(parts: PreparedParts, nonce: string): PreparedParts {
  let pieces = cut.get(parts);
  if (!pieces) cut.set(parts, (pieces = parts.source.map(({ code }) => noncePieces(code))));
  const known = pieces;
  return prepareParts(
    parts.source.map((part, index) => ({ ...part, code: withNonce(known[index]!, nonce) })),
  );
}
