import type { Account, Mark } from '../types.js';
import { PLACEHOLDERS, isExampleAccount } from './placeholders.js';
import type { MarkRule } from './rule.js';
import { SECRETS } from './secrets.js';
import { TESTS } from './tests.js';

/** The first that fits a place holds. */
const RULES: readonly MarkRule[] = [...PLACEHOLDERS, ...SECRETS, ...TESTS];

/** Values that should not go live as they are. */
export function marksOf(code: string, accounts: readonly Account[]): Mark[] {
  let marks: Mark[] = [];
  for (const { kind, confidence, hint, pattern, isMeant } of RULES) {
    if (!hint.test(code)) continue;
    const found: Mark[] = [];
    // Both lists are in order, so one pass over the two finds what overlaps.
    let next = 0;
    for (const match of code.matchAll(pattern)) {
      if (isMeant?.(match[0]) === false) continue;
      const range = { start: match.index, end: match.index + match[0].length };
      while (next < marks.length && marks[next]!.range.end <= range.start) next++;
      const isKnown = next < marks.length && marks[next]!.range.start < range.end;
      if (!isKnown) found.push({ kind, value: match[0], range, confidence });
    }
    if (found.length > 0) marks = [...marks, ...found].sort((a, b) => a.range.start - b.range.start);
  }
  // A library holds all sorts of words; what is meant for its owner stands in short code, or is an account.
  const kept = code.length > LIBRARY ? marks.filter(isMeantInLibrary) : marks;
  return [...kept, ...ofAccounts(accounts, kept)].sort((a, b) => a.range.start - b.range.start);
}

function isMeantInLibrary({ kind, confidence, value }: Mark): boolean {
  if (confidence !== 'certain') return false;
  return kind !== 'placeholder' || /^(?:your|insert|enter|replace)/i.test(value);
}

/** Longer code is somebody's library, in UTF-16 code units. */
const LIBRARY = 10_000;

/** Accounts that are examples, or are called after testing. */
function ofAccounts(accounts: readonly Account[], known: readonly Mark[]): Mark[] {
  return accounts.flatMap(({ value, range }): Mark[] => {
    const isKnown = known.some((mark) => mark.range.start < range.end && range.start < mark.range.end);
    if (isKnown) return [];
    if (isExampleAccount(value)) return [{ kind: 'placeholder', value, range, confidence: 'likely' }];
    const isTest = /(?:^|[-_.])(?:test|sandbox|staging|dev|debug)(?:$|[-_.]?\d{0,3}$)/i.test(value);
    return isTest ? [{ kind: 'test', value, range, confidence: 'guess' }] : [];
  });
}
