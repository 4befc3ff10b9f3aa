import type { SetChange } from '../edit/index.js';
import type { ReadPart } from './read-part.js';

/** Moves a part to the end of the body, where the whole page is there; no fix for one that others may wait for. */
export function toBodyEnd({ key, facts }: ReadPart): { readonly fix?: readonly SetChange[] } {
  if (facts.defines.length > 0) return {};
  return { fix: [{ kind: 'move-part', part: key, placement: 'body-end' }] };
}
