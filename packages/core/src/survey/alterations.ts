import { diffWordsWithSpace } from 'diff';

/** A stretch of a code that stayed, went, or came. */
export interface Alteration {
  readonly kind: 'same' | 'gone' | 'new';
  readonly text: string;
}

/** Where more words differ, nearly all is another. */
const MAX_WORDS = 1_500;

/**
 * Which characters of a code were changed: by words (Myers, "An O(ND) difference algorithm", 1986), and within a word
 * that is nearly the same only what differs of it. People read that more easily than the fewest characters.
 */
export function alterations(ours: string, theirs: string): Alteration[] {
  const changes = diffWordsWithSpace(ours, theirs, { maxEditLength: MAX_WORDS });
  if (!changes)
    return [
      { kind: 'gone', text: ours },
      { kind: 'new', text: theirs },
    ];
  const runs = changes.map(({ value, added, removed }): Alteration => ({
    kind: added ? 'new' : removed ? 'gone' : 'same',
    text: value,
  }));
  return runs.flatMap((run, at) => {
    const [before, after] = [runs[at - 1], runs[at + 1]];
    if (run.kind === 'gone' && after?.kind === 'new') return narrowed(run.text, after.text);
    return run.kind === 'new' && before?.kind === 'gone' ? [] : [run];
  });
}

/** What of one text another has in its place, without how they begin and end where that is most of them. */
function narrowed(gone: string, came: string): Alteration[] {
  const shorter = Math.min(gone.length, came.length);
  let start = 0;
  while (start < shorter && gone[start] === came[start]) start++;
  let end = 0;
  while (end < shorter - start && gone.at(-1 - end) === came.at(-1 - end)) end++;
  if (start + end <= shorter / 2) [start, end] = [0, 0];
  const runs: Alteration[] = [
    { kind: 'same', text: gone.slice(0, start) },
    { kind: 'gone', text: gone.slice(start, gone.length - end) },
    { kind: 'new', text: came.slice(start, came.length - end) },
    { kind: 'same', text: gone.slice(gone.length - end) },
  ];
  return runs.filter(({ text }) => text !== '');
}
