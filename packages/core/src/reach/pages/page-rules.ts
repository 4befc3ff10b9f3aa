import { isGroupReference } from './page-pattern.js';
import { REACH_TEXTS } from '../../texts/reach.js';
import { say } from '../../texts/say.js';

/**
 * On which pages a snippet runs: page patterns (see `readPagePattern`) and page groups as `@key`. No include pattern
 * means every page.
 */
export interface PageRules {
  readonly include: readonly string[];
  readonly exclude: readonly string[];
}

/** A named set of pages of the site, like "Confirmation pages", defined once and used by many snippets. */
export interface PageGroup {
  readonly key: string;
  readonly name: string;
  readonly patterns: readonly string[];
}

export const ALL_PAGES: PageRules = { include: [], exclude: [] };

/** No valid pattern, so it matches no page: what stands for a group that is not there. */
const NOTHING = '(';

/** The rules with patterns in place of groups. A group that is not there holds no page. */
export function withoutGroups(rules: PageRules, groups: readonly PageGroup[]): PageRules {
  if (![...rules.include, ...rules.exclude].some(isGroupReference)) return rules;
  const patterns = (entries: readonly string[]): string[] =>
    entries.flatMap((entry) => (isGroupReference(entry) ? groupPatterns(entry, groups) : [entry]));
  return { include: patterns(rules.include), exclude: patterns(rules.exclude) };
}

function groupPatterns(entry: string, groups: readonly PageGroup[]): readonly string[] {
  const patterns = groups.find(({ key }) => key === entry.slice(1))?.patterns ?? [];
  // An include list must not become empty: that would mean every page.
  return patterns.length > 0 ? patterns : [NOTHING];
}

/** Page rules in words: "on all pages", "on /fares and /fares/*, but not on /fares/old". */
export function pageRulesWords(rules: PageRules, groups: readonly PageGroup[] = []): string {
  const included =
    rules.include.length === 0
      ? REACH_TEXTS.allPages
      : say(REACH_TEXTS.onPages, { list: listWords(entryWords(rules.include, groups)) });
  return rules.exclude.length === 0
    ? included
    : say(REACH_TEXTS.includedButNot, { included, list: listWords(entryWords(rules.exclude, groups)) });
}

function entryWords(entries: readonly string[], groups: readonly PageGroup[]): string[] {
  return entries.map((entry) => pageEntryWords(entry, groups));
}

/** An entry of page rules as people know it: a group by its name. */
export function pageEntryWords(entry: string, groups: readonly PageGroup[]): string {
  const group = isGroupReference(entry) ? groups.find(({ key }) => key === entry.slice(1)) : undefined;
  return group ? say(REACH_TEXTS.quotedName, { name: group.name }) : entry;
}

/** "a", "a and b", "a, b and c". */
export function listWords(items: readonly string[]): string {
  return items.length < 2 ? items.join('') : say('{items}', { items });
}
