import type { PlacedPart } from './ordered-parts.js';

/** The name that people read, with the part's number where the snippet has several. */
export function partName({ key, snippet: { name, parts } }: Pick<PlacedPart, 'key' | 'snippet'>): string {
  return parts.length === 1 ? `“${name}”` : `“${name}” (piece ${key.split('/').at(-1)!})`;
}
