import type { Mark, MarkKind } from './types.js';

interface MarkRule {
  readonly kind: MarkKind;
  readonly sure: Mark['sure'];
  readonly pattern: RegExp;
}

/** Values that stand for others, switch a test on, or must be known to nobody. One more is one more line. */
const RULES: readonly MarkRule[] = [
  {
    kind: 'placeholder',
    sure: 'certain',
    pattern: /\b(?:YOUR|MY|INSERT|ENTER|REPLACE|ADD|CHANGE)[_-][A-Z][A-Z0-9_-]*\b/g,
  },
  {
    kind: 'placeholder',
    sure: 'certain',
    pattern:
      /\b(?:your|insert|enter|replace)[-_](?:[a-z]+[-_])*(?:id|key|code|account|token|domain|site|here)\b/gi,
  },
  {
    kind: 'placeholder',
    sure: 'certain',
    pattern:
      /\{\{?\s*(?:your|insert|enter|replace)\b[^{}]*\}?\}|\[(?:your|insert|enter)[^\]]*\]|<(?:your|insert|enter)[ _-][^<>]*>/gi,
  },
  {
    kind: 'placeholder',
    sure: 'certain',
    pattern: /(?<=["'=/-])(?:[A-Z]{1,4}-)?X{4,}(?:-X+)*(?=["'&?/-]|$)/g,
  },
  { kind: 'placeholder', sure: 'likely', pattern: /(?<=["'=])(?:[A-Z]{1,4}-)?0{5,}(?:-0+)*(?=["'&]|$)/g },
  {
    kind: 'placeholder',
    sure: 'likely',
    pattern:
      /(?<=["'=])(?:123456(?:7(?:89?0?)?)?|abcdef(?:123456)?|example[-_]?(?:id|key|account|token)|(?:id|key|account)[-_]?example)(?=["'&])/gi,
  },
  {
    kind: 'test',
    sure: 'likely',
    pattern:
      /\b(?:test|testmode|test_mode|debug|debugmode|debug_mode|sandbox|is_test|isTest|demo_mode|staging)["']?\s*[:=]\s*["']?(?:true|1|on|yes)\b/gi,
  },
  {
    kind: 'test',
    sure: 'likely',
    pattern:
      /(?<=["'=])(?:test|sandbox)[_-][A-Za-z0-9]{8,}(?=["'&])|(?<=["'=])[a-z]{2}_test_[A-Za-z0-9]{8,}(?=["'&])/g,
  },
  { kind: 'secret', sure: 'certain', pattern: /-----BEGIN (?:[A-Z]+ )*PRIVATE KEY-----/g },
  {
    kind: 'secret',
    sure: 'certain',
    pattern: /(?<=["'=])(?:sk|rk)_(?:live|prod)_[A-Za-z0-9]{12,}(?=["'&])/g,
  },
  {
    kind: 'secret',
    sure: 'likely',
    pattern:
      /\b(?:secret|client_secret|clientSecret|api_secret|apiSecret|private_key|privateKey|password|passwd)["']?\s*[:=]\s*["'][^"'\s]{8,}["']/g,
  },
];

/** Values that should not go live as they are. */
export function marksOf(code: string): Mark[] {
  let marks: Mark[] = [];
  for (const { kind, sure, pattern } of RULES) {
    const found: Mark[] = [];
    // Both lists are in order, so one pass over the two finds what overlaps.
    let next = 0;
    for (const match of code.matchAll(pattern)) {
      const range = { start: match.index, end: match.index + match[0].length };
      while (next < marks.length && marks[next]!.range.end <= range.start) next++;
      const isKnown = next < marks.length && marks[next]!.range.start < range.end;
      if (!isKnown) found.push({ kind, value: match[0], range, sure });
    }
    if (found.length > 0) marks = [...marks, ...found].sort((a, b) => a.range.start - b.range.start);
  }
  return marks;
}
