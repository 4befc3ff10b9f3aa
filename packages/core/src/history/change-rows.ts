import type { Snapshot } from '../snapshot/index.js';
import type { DraftChange } from './draft-change.js';
import { pathWords } from './path-words.js';
import { valueWords } from './value-words.js';

/** One thing that a change did, for a table of what was and what is. */
export interface ChangeRow {
  /** What it is, in words: “pages”, “code of part 2”. Empty where the whole thing is new or gone. */
  readonly what: string;
  readonly before: string;
  readonly after: string;
}

/** What a change did to a snippet or a site, row by row. Places among others are left out: they say nothing by themselves. */
export function changeRows({ before, after }: DraftChange, site: Snapshot['site']): ChangeRow[] {
  if (before === null) return [{ what: '', before: '', after: after.name }];
  if (after === null) return [{ what: '', before: before.name, after: '' }];
  const [was, is] = [before, after];
  return [...new Set([...Object.keys(was), ...Object.keys(is)])]
    .filter((path) => !path.endsWith('/rank'))
    .map((path) => ({
      what: pathWords(path),
      before: valueWords(path, was[path], site),
      after: valueWords(path, is[path], site),
    }));
}
