import { diff3Merge } from 'node-diff3';
import { normalizeLimits, unitedHours, type PageRules } from '../reach/index.js';
import type { Snapshot, SnapshotSnippet } from '../snapshot/index.js';
import { HISTORY_TEXTS } from '../texts/history.js';
import { say } from '../texts/say.js';
import { snippetValueAt, snippetWith } from './at-path.js';
import { isSame, snippetChange, type Values } from './draft-change.js';
import { pathWords } from './path-words.js';
import { valueWords } from './value-words.js';

/** Whose change of something is kept where both have changed it; both where that can be. */
export type MergeChoice = 'theirs' | 'yours' | 'both';

/** Something that both have changed, each in their own way. */
export interface MergeConflict {
  /** Names it among the conflicts of one merge. */
  readonly id: string;
  /** What it is, in words. */
  readonly what: string;
  readonly theirs: string;
  readonly yours: string;
  /** What keeping both comes to; undefined where it cannot be. */
  readonly both: string | undefined;
}

export interface Merge {
  /** The snippet with the changes of both. Of what is not decided, theirs. */
  readonly snippet: SnapshotSnippet;
  /** All of them, those that were decided included. */
  readonly conflicts: readonly MergeConflict[];
  /** What only they have changed, in words. */
  readonly theirs: readonly string[];
  /** What only you have changed, in words. */
  readonly yours: readonly string[];
}

/**
 * A snippet that two people have changed at once (three-way merge: as both found it, as the other has saved it, as you would have
 * it). What only one has changed is theirs to change; what both have changed otherwise is a conflict.
 *
 * @param choices - by id of the conflict
 */
export function mergeSnippets(
  base: SnapshotSnippet,
  theirs: SnapshotSnippet,
  yours: SnapshotSnippet,
  site: Snapshot['site'],
  choices: Readonly<Record<string, MergeChoice>> = {},
): Merge {
  const versions = { base: normal(base), theirs: normal(theirs), yours: normal(yours) };
  const [left, right] = changedPaths(versions);
  const conflicts: MergeConflict[] = [];
  const words = (path: string): string => pathWords(path, versions.theirs.parts.length);
  let snippet = versions.theirs;
  const onlyYours: string[] = [];
  for (const path of right) {
    const values = valuesAt(versions, path);
    if (!left.includes(path)) {
      snippet = snippetWith(snippet, path, values.yours);
      onlyYours.push(words(path));
      continue;
    }
    if (isSame(values.theirs, values.yours)) continue;
    const both = keptBoth(path, values);
    const said = (value: unknown): string => valueWords(path, value, site);
    conflicts.push({
      id: path,
      what: words(path),
      theirs: said(values.theirs),
      yours: said(values.yours),
      both: both && said(both.value),
    });
    const choice = choices[path];
    if (choice === 'yours') snippet = snippetWith(snippet, path, values.yours);
    else if (choice === 'both' && both) snippet = snippetWith(snippet, path, both.value);
  }
  const onlyTheirs = left.filter((path) => !right.includes(path)).map(words);
  return { snippet, conflicts, theirs: onlyTheirs, yours: onlyYours };
}

interface Versions<T> {
  readonly base: T;
  readonly theirs: T;
  readonly yours: T;
}

/** What is said by leaving it out is left out; parts have their places, not their ranks, which others move. */
function normal({ limits, needs = [], parts, ...snippet }: SnapshotSnippet): SnapshotSnippet {
  const bounds = normalizeLimits(limits);
  return {
    ...snippet,
    ...(bounds ? { limits: bounds } : {}),
    ...(needs.length > 0 ? { needs } : {}),
    parts: parts.map(({ placement, code, statement = '', per = 'load' }) => ({
      ...{ placement, code, rank: 0 },
      ...(statement === '' ? {} : { statement }),
      ...(per === 'load' ? {} : { per }),
    })),
  };
}

/** The paths at which each has changed it; parts as a whole for both where one of them has another number of them. */
function changedPaths({ base, theirs, yours }: Versions<SnapshotSnippet>): [string[], string[]] {
  const sides = [pathsBetween(base, theirs), pathsBetween(base, yours)] as [string[], string[]];
  if (!sides.some((paths) => paths.includes('parts'))) return sides;
  const asWhole = (paths: string[]): string[] => [
    ...new Set(paths.map((path) => (path.startsWith('parts/') ? 'parts' : path))),
  ];
  return [asWhole(sides[0]), asWhole(sides[1])];
}

function pathsBetween(before: SnapshotSnippet, after: SnapshotSnippet): string[] {
  const change = snippetChange(before, after);
  if (!change) return [];
  const paths = Object.keys({ ...(change.before as Values), ...(change.after as Values) });
  // Whoever edits a snippet switches it elsewhere.
  return paths.filter((path) => path !== 'state' && path !== 'recipe');
}

function valuesAt({ base, theirs, yours }: Versions<SnapshotSnippet>, path: string): Versions<unknown> {
  return {
    base: snippetValueAt(base, path),
    theirs: snippetValueAt(theirs, path),
    yours: snippetValueAt(yours, path),
  };
}

/** What it comes to when the changes of both are kept; undefined where that makes no sense. */
function keptBoth(path: string, values: Versions<unknown>): { readonly value: unknown } | undefined {
  const merged = bothOf(path, values);
  // Keeping both of which one holds the other is keeping that one.
  const isOne = merged === undefined || isSame(merged, values.theirs) || isSame(merged, values.yours);
  return isOne ? undefined : { value: merged };
}

function bothOf(path: string, { base, theirs, yours }: Versions<unknown>): unknown {
  const name = path.split('/').at(-1)!;
  switch (name) {
    case 'code':
      return bothTexts(base as string, theirs as string, yours as string);
    case 'note':
    case 'purpose':
      return say(HISTORY_TEXTS.bothTexts, { theirs: theirs as string, yours: yours as string });
    case 'needs':
      return bothLists(lists(base), lists(theirs), lists(yours));
    case 'pages':
      return bothPages(base as PageRules, theirs as PageRules, yours as PageRules);
    case 'hours':
      return theirs && yours ? unitedHours(theirs, yours) : undefined;
    case 'devices':
      return theirs && yours ? [...new Set([...lists(theirs), ...lists(yours)])].sort() : undefined;
    default:
      return undefined;
  }
}

function lists(value: unknown): readonly string[] {
  return (value as readonly string[] | undefined) ?? [];
}

/** Of longer texts, finding the same lines takes too long. */
const MOST_LINES = 3_000;

/** Line by line (diff3: Khanna, Kunal, Pierce 2007); undefined where both have changed the same lines. */
function bothTexts(base: string, theirs: string, yours: string): string | undefined {
  const [was, left, right] = [base.split('\n'), theirs.split('\n'), yours.split('\n')];
  if (Math.max(was.length, left.length, right.length) > MOST_LINES) return undefined;
  const regions = diff3Merge(left, was, right, { excludeFalseConflicts: true });
  const lines: string[] = [];
  for (const { ok } of regions) {
    if (!ok) return undefined;
    lines.push(...ok);
  }
  return lines.join('\n');
}

/** What either has added is there, and what either has taken out is not. */
function bothLists(
  base: readonly string[],
  theirs: readonly string[],
  yours: readonly string[],
): readonly string[] {
  return [
    ...theirs.filter((entry) => yours.includes(entry) || !base.includes(entry)),
    ...yours.filter((entry) => !theirs.includes(entry) && !base.includes(entry)),
  ];
}

/** No page rules stand for all pages: whoever takes the last one out does not add up with whoever adds one. */
function bothPages(base: PageRules, theirs: PageRules, yours: PageRules): PageRules | undefined {
  if ((theirs.include.length === 0) !== (yours.include.length === 0)) return undefined;
  return {
    include: bothLists(base.include, theirs.include, yours.include),
    exclude: bothLists(base.exclude, theirs.exclude, yours.exclude),
  };
}
