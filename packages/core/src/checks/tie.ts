import type { CheckedSet } from './checked-set.js';
import type { ReadPart } from './read-part.js';
import type { ReadSnippet } from './read-set.js';

/** A snippet that has to do with every other one, whatever that is. */
export const WITH_ALL = 'with-all';

/**
 * What makes it matter to one snippet what another is: two that have a word in common hang together. Too many words
 * cost time, one too few leaves findings as they were that are not so any more.
 */
export type Tie = (snippet: ReadSnippet, set: CheckedSet) => readonly string[] | typeof WITH_ALL;

/** A tie by the words of a snippet's parts. */
export function tieOfParts(wordsOf: (part: ReadPart, set: CheckedSet) => readonly string[]): Tie {
  return ({ parts }, set) =>
    parts.length === 1 ? wordsOf(parts[0]!, set) : parts.flatMap((part) => wordsOf(part, set));
}

/** A tie of snippets of which one part is enough to have to do with every other; others have to do with none. */
export function tieToAll(isLookingAtAll: (part: ReadPart, set: CheckedSet) => boolean): Tie {
  return ({ parts }, set) => (parts.some((part) => isLookingAtAll(part, set)) ? WITH_ALL : []);
}
