import type { Snapshot, SnapshotPart, SnapshotSnippet } from '../snapshot/index.js';
import { HISTORY_TEXTS } from '../texts/history.js';
import { say } from '../texts/say.js';
import { siteWith, snippetValueAt, snippetWith } from './at-path.js';
import { isSame, siteValues, type DraftChange, type Values } from './draft-change.js';
import { pathWords } from './path-words.js';
import { valueWords } from './value-words.js';

/** Which of two things is to be there: what is there now, or what was there before the change that is undone. */
export type UndoChoice = 'now' | 'before';

/** Something that a change did, and that somebody has changed again since. */
export interface UndoConflict {
  /** Names it among the conflicts of one undo. */
  readonly id: string;
  /** What it is, in words. */
  readonly what: string;
  readonly now: string;
  readonly before: string;
}

export interface Undone {
  /** The set without the change. */
  readonly target: Snapshot;
  /** All of them, those that were decided included. */
  readonly conflicts: readonly UndoConflict[];
  /** Names of snippets that the change was about and that are gone since. */
  readonly gone: readonly string[];
}

/**
 * A set without what one change did to it, whatever came after (three-way merge: before, after, now). What is still as the change
 * left it becomes what it was before; what somebody has changed since is a conflict, and stays unless it is chosen otherwise.
 *
 * @param choices - by id of the conflict
 */
export function undoChanges(
  now: Snapshot,
  changes: readonly DraftChange[],
  choices: Readonly<Record<string, UndoChoice>> = {},
): Undone {
  const undoing = new Undoing(now, choices);
  for (const change of changes) undoing.undo(change);
  undoing.undoOrder(changes);
  return { target: undoing.target, conflicts: undoing.conflicts, gone: undoing.gone };
}

const RANK = /^parts\/\d{1,9}\/rank$/;

class Undoing {
  readonly conflicts: UndoConflict[] = [];
  readonly gone: string[] = [];
  readonly #snippets: Map<string, SnapshotSnippet>;
  #site: Snapshot['site'];

  constructor(
    private readonly now: Snapshot,
    private readonly choices: Readonly<Record<string, UndoChoice>>,
  ) {
    this.#snippets = new Map(now.snippets.map((snippet) => [snippet.key, snippet]));
    this.#site = now.site;
  }

  get target(): Snapshot {
    return { ...this.now, site: this.#site, snippets: [...this.#snippets.values()] };
  }

  undo(change: DraftChange): void {
    if (change.kind === 'site') this.#undoSite(change.before, change.after);
    else if (change.before === null) this.#undoAdded(change.after);
    else if (change.after === null) this.#undoRemoved(change.before);
    else this.#undoEdited(change.key, change.before, change.after);
  }

  /** Order is undone as a whole: half of an order is nobody's. */
  undoOrder(changes: readonly DraftChange[]): void {
    const moves = changes.flatMap(rankMoves).filter(({ key }) => this.#snippets.has(key));
    const rankNow = ({ key, path }: RankMove): unknown => snippetValueAt(this.#snippets.get(key)!, path);
    const open = moves.filter((move) => rankNow(move) !== undefined);
    if (open.every((move) => rankNow(move) === move.before)) return;
    const isAsLeft = open.every((move) => rankNow(move) === move.after);
    if (!isAsLeft) {
      const { order: what, orderNow, orderBefore } = HISTORY_TEXTS;
      if (!this.#isChosen({ id: 'order', what, now: orderNow, before: orderBefore })) return;
    }
    for (const { key, path, before } of open)
      this.#snippets.set(key, snippetWith(this.#snippets.get(key)!, path, before));
  }

  #undoSite(before: Values, after: Values): void {
    const are = siteValues(this.#site);
    for (const path of pathsOf(before, after)) {
      const [was, left, is] = [before[path], after[path], are[path]];
      if (isSame(is, was)) continue;
      const what = say(HISTORY_TEXTS.ofSite, { what: pathWords(path) });
      if (isSame(is, left) || this.#isValueChosen(`site/${path}`, what, path, { is, was }))
        this.#site = siteWith(this.#site, path, was);
    }
  }

  #undoAdded(added: SnapshotSnippet): void {
    const { key } = added;
    const is = this.#snippets.get(key);
    if (!is) return;
    const what = say(HISTORY_TEXTS.snippet, { name: is.name });
    const conflict = { id: key, what, now: HISTORY_TEXTS.changedSince, before: HISTORY_TEXTS.notThere };
    if (isSame(essence(is), essence(added)) || this.#isChosen(conflict)) this.#snippets.delete(key);
  }

  #undoRemoved(removed: SnapshotSnippet): void {
    const { key } = removed;
    const is = this.#snippets.get(key);
    if (is && isSame(essence(is), essence(removed))) return;
    const what = say(HISTORY_TEXTS.snippet, { name: removed.name });
    const conflict = { id: key, what, now: HISTORY_TEXTS.anotherOne, before: HISTORY_TEXTS.removedOne };
    if (!is || this.#isChosen(conflict)) this.#snippets.set(key, removed);
  }

  #undoEdited(key: string, before: Values, after: Values): void {
    const there = this.#snippets.get(key);
    if (!there) {
      this.gone.push(key);
      return;
    }
    for (const path of pathsOf(before, after)) {
      if (RANK.test(path)) continue;
      const snippet = this.#snippets.get(key)!;
      const [was, left, is] = [before[path], after[path], snippetValueAt(snippet, path)];
      if (isSameAt(path, is, was)) continue;
      const what = say(HISTORY_TEXTS.ofSnippet, {
        name: there.name,
        what: pathWords(path, there.parts.length),
      });
      const isFree = isSameAt(path, is, left) && !isPartGone(snippet, path);
      if (isFree || this.#isValueChosen(`${key}/${path}`, what, path, { is, was }))
        this.#snippets.set(key, snippetWith(snippet, path, was));
    }
  }

  /** A conflict about a value at a path. */
  #isValueChosen(
    id: string,
    what: string,
    path: string,
    { is, was }: Record<'is' | 'was', unknown>,
  ): boolean {
    const { site } = this.now;
    return this.#isChosen({ id, what, now: valueWords(path, is, site), before: valueWords(path, was, site) });
  }

  #isChosen(conflict: UndoConflict): boolean {
    this.conflicts.push(conflict);
    return this.choices[conflict.id] === 'before';
  }
}

interface RankMove {
  readonly key: string;
  readonly path: string;
  readonly before: unknown;
  readonly after: unknown;
}

function rankMoves(change: DraftChange): RankMove[] {
  const { key, before, after } = change;
  if (change.kind === 'site' || before === null || after === null) return [];
  const [was, left] = [before, after];
  return Object.keys(was)
    .filter((path) => RANK.test(path))
    .map((path) => ({ key, path, before: was[path], after: left[path] }));
}

function pathsOf(before: Values, after: Values): string[] {
  return [...new Set([...Object.keys(before), ...Object.keys(after)])];
}

/** A snippet without what moves by itself: its places among others, and since when it is off. */
function essence({ stateSince: _, ...snippet }: SnapshotSnippet): object {
  return { ...snippet, parts: unranked(snippet.parts) };
}

function unranked(parts: readonly SnapshotPart[]): object[] {
  return parts.map(({ rank: _, ...part }) => part);
}

function isSameAt(path: string, a: unknown, b: unknown): boolean {
  if (path !== 'parts' || !Array.isArray(a) || !Array.isArray(b)) return isSame(a, b);
  return isSame(unranked(a as SnapshotPart[]), unranked(b as SnapshotPart[]));
}

/** Whether a path is of a part that the snippet does not have any more. */
function isPartGone({ parts }: SnapshotSnippet, path: string): boolean {
  const [first, number, name] = path.split('/');
  return first === 'parts' && name !== undefined && parts[Number(number) - 1] === undefined;
}
