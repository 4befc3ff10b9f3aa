import { REACH_TEXTS } from '../../texts/reach.js';
export type TokenType =
  'open' | 'close' | 'regexp' | 'name' | 'char' | 'escaped-char' | 'other-modifier' | 'asterisk' | 'end';

export interface Token {
  readonly type: TokenType;
  readonly value: string;
  readonly index: number;
}

/** A pattern that the URLPattern Standard refuses. */
export class PatternError extends Error {
  override name = 'PatternError';
}

const SINGLE: Readonly<Record<string, TokenType>> = {
  '*': 'asterisk',
  '+': 'other-modifier',
  '?': 'other-modifier',
  '{': 'open',
  '}': 'close',
};

const NAME_START = /[$_\p{ID_Start}]/u;
const NAME_PART = /[$_\u200c\u200d\p{ID_Continue}]/u;

/**
 * Tokens of a pattern of one URL component (URLPattern Standard, 2.1.2, "tokenize a pattern string", strict).
 *
 * @throws PatternError
 */
export function tokenize(pattern: string): Token[] {
  const tokens: Token[] = [];
  const points = Array.from(pattern);
  let index = 0;
  while (index < points.length) {
    const point = points[index]!;
    const single = SINGLE[point];
    if (single !== undefined) tokens.push({ type: single, value: point, index: index++ });
    else if (point === '\\') {
      const value = points[index + 1];
      if (value === undefined) throw new PatternError(REACH_TEXTS.backslashEndStands);
      tokens.push({ type: 'escaped-char', value, index });
      index += 2;
    } else if (point === ':') {
      let end = index + 1;
      while (end < points.length && (end === index + 1 ? NAME_START : NAME_PART).test(points[end]!)) end++;
      if (end === index + 1) throw new PatternError(REACH_TEXTS.colonMustFollowed);
      tokens.push({ type: 'name', value: points.slice(index + 1, end).join(''), index });
      index = end;
    } else if (point === '(') {
      const end = regexpEnd(points, index);
      tokens.push({ type: 'regexp', value: points.slice(index + 1, end - 1).join(''), index });
      index = end;
    } else tokens.push({ type: 'char', value: point, index: index++ });
  }
  tokens.push({ type: 'end', value: '', index });
  return tokens;
}

/** The place behind the bracket that closes a regular expression. */
function regexpEnd(points: readonly string[], start: number): number {
  let depth = 1;
  let at = start + 1;
  if (points[at] === '?') throw new PatternError(REACH_TEXTS.bracketsCannotBegin);
  for (; at < points.length; at++) {
    const point = points[at]!;
    if (point > '\u007f') throw new PatternError(REACH_TEXTS.withinBracketsOnly);
    if (point === '\\') {
      at++;
      if (at >= points.length || points[at]! > '\u007f')
        throw new PatternError(REACH_TEXTS.backslashWithinBrackets);
    } else if (point === ')') {
      if (--depth === 0) break;
    } else if (point === '(') {
      depth++;
      if (points[at + 1] !== '?') throw new PatternError(REACH_TEXTS.bracketsWithinBrackets);
    }
  }
  if (depth > 0) throw new PatternError(REACH_TEXTS.bracketOpenedNot);
  if (at === start + 1) throw new PatternError(REACH_TEXTS.thereNothingWithin);
  return at + 1;
}
