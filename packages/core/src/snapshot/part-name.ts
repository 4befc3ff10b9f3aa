import type { PlacedPart } from './ordered-parts.js';
import { SNAPSHOT_TEXTS } from '../texts/snapshot.js';
import { say } from '../texts/say.js';

/** The name that people read, with the part's number where the snippet has several. */
export function partName({ key, snippet: { name, parts } }: Pick<PlacedPart, 'key' | 'snippet'>): string {
  return parts.length === 1
    ? say(SNAPSHOT_TEXTS.partName, { name })
    : say(SNAPSHOT_TEXTS.namePiece, { name, number: key.split('/').at(-1)! });
}
