import type { PageRules } from '../reach/index.js';

interface Folder {
  /** Known pages whose path is just the folder's own, by whether they are wanted. */
  own: { wanted: string[]; others: string[] };
  readonly inside: Map<string, Folder>;
  wantedBelow: number;
  othersBelow: number;
}

/** What is written for a folder and all below it: `extra` patterns beside what holds it already. */
interface Cover {
  readonly include: readonly string[];
  readonly exclude: readonly string[];
}

/**
 * The shortest page rules, of addresses and `/folder/*`, that hold just some of the known pages: include patterns, and
 * exclude patterns within these. Found exactly, from the leaves of the tree of paths to its root: each folder is taken
 * page by page, or whole, or whole but for what is left out again, whichever needs fewest patterns.
 *
 * @param wanted - among the known ones; at least one
 * @param known - paths with or without search, each once
 */
export function shortestPageRules(wanted: Iterable<string>, known: Iterable<string>): PageRules {
  const isWanted = new Set(wanted);
  const root = newFolder();
  for (const path of known) add(root, path, isWanted.has(path));
  const [pages, all] = [outside(root, ''), within(root, '')];
  // No include pattern means every page, so the whole site needs no pattern at all.
  const best = count(all) < count(pages) ? all : pages;
  return { include: [...best.include], exclude: [...best.exclude] };
}

function newFolder(): Folder {
  return { own: { wanted: [], others: [] }, inside: new Map(), wantedBelow: 0, othersBelow: 0 };
}

function add(root: Folder, path: string, isWanted: boolean): void {
  const pathname = path.split('?', 1)[0]!;
  let folder = root;
  for (const segment of pathname.slice(1).split('/')) {
    if (isWanted) folder.wantedBelow++;
    else folder.othersBelow++;
    let next = folder.inside.get(segment);
    if (!next) folder.inside.set(segment, (next = newFolder()));
    folder = next;
  }
  (isWanted ? folder.own.wanted : folder.own.others).push(path);
}

/** What it takes where nothing around holds the folder. */
function outside(folder: Folder, path: string): Cover {
  const own = { include: ownPatterns(folder.own.wanted, folder.own.others, path), exclude: [] };
  if (folder.wantedBelow === 0) return own;
  const apart = joined([...folder.inside].map(([segment, child]) => outside(child, `${path}/${segment}`)));
  const inner = joined([...folder.inside].map(([segment, child]) => within(child, `${path}/${segment}`)));
  const whole = { include: [`${escapePattern(path)}/*`, ...inner.include], exclude: inner.exclude };
  return joined([own, count(whole) < count(apart) ? whole : apart]);
}

/** What it takes where a pattern around holds all of the folder: only to leave out what is not wanted. */
function within(folder: Folder, path: string): Cover {
  const own = { include: [], exclude: ownPatterns(folder.own.others, folder.own.wanted, path) };
  if (folder.othersBelow === 0) return own;
  const apart = joined([...folder.inside].map(([segment, child]) => within(child, `${path}/${segment}`)));
  // What is left out cannot be taken in again.
  const isWhole = folder.wantedBelow === 0 && count(apart) > 1;
  return joined([own, isWhole ? { include: [], exclude: [`${escapePattern(path)}/*`] } : apart]);
}

/** Patterns for pages of one path, which differ in their search only. */
function ownPatterns(meant: readonly string[], others: readonly string[], path: string): string[] {
  if (meant.length === 0) return [];
  return others.length === 0 ? [escapePattern(path)] : meant.map(withSearch);
}

/** The address with its search; an empty one is asked for as such. */
function withSearch(path: string): string {
  const [pathname, search = ''] = path.split(/\?([^]*)/);
  return `${escapePattern(pathname!)}?${escapePattern(search)}`;
}

function joined(covers: readonly Cover[]): Cover {
  return {
    include: covers.flatMap(({ include }) => include),
    exclude: covers.flatMap(({ exclude }) => exclude),
  };
}

function count({ include, exclude }: Cover): number {
  return include.length + exclude.length;
}

/** A text as a pattern that matches nothing else (URLPattern Standard, "escape a pattern string"). */
function escapePattern(text: string): string {
  return text.replace(/[+*?:{}()\\]/g, '\\$&');
}
