import type { Mark, MarkKind } from './types.js';

interface MarkRule {
  readonly kind: MarkKind;
  readonly confidence: Mark['confidence'];
  readonly pattern: RegExp;
}

/** Values that stand for others, switch a test on, or must be known to nobody. One more is one more line. */
const RULES: readonly MarkRule[] = [
  {
    kind: 'placeholder',
    confidence: 'certain',
    pattern: /\b(?:YOUR|MY|INSERT|ENTER|REPLACE|ADD|CHANGE)[_-][A-Z][A-Z0-9_-]*\b/g,
  },
  {
    kind: 'placeholder',
    confidence: 'certain',
    pattern:
      /\b(?:your|insert|enter|replace)[-_](?:[a-z]+[-_])*(?:id|key|code|account|token|domain|site|here)\b/gi,
  },
  {
    kind: 'placeholder',
    confidence: 'certain',
    pattern:
      /\{\{?\s*(?:your|insert|enter|replace)\b[^{}]*\}?\}|\[(?:your|insert|enter)[^\]]*\]|<(?:your|insert|enter)[ _-][^<>]*>/gi,
  },
  {
    kind: 'placeholder',
    confidence: 'certain',
    pattern: /(?<=["'=/-])(?:[A-Z]{1,4}-)?X{4,}(?:-X+)*(?=["'&?/-]|$)/g,
  },
  {
    kind: 'placeholder',
    confidence: 'likely',
    pattern: /(?<=["'=])(?:[A-Z]{1,4}-)?0{5,}(?:-0+)*(?=["'&]|$)/g,
  },
  {
    kind: 'placeholder',
    confidence: 'likely',
    pattern:
      /(?<=["'=])(?:123456(?:7(?:89?0?)?)?|abcdef(?:123456)?|example[-_]?(?:id|key|account|token)|(?:id|key|account)[-_]?example)(?=["'&])/gi,
  },
  {
    kind: 'test',
    confidence: 'likely',
    pattern:
      /\b(?:test|testmode|test_mode|debug|debugmode|debug_mode|sandbox|is_test|isTest|demo_mode|staging)["']?\s*[:=]\s*["']?(?:true|1|on|yes)\b/gi,
  },
  {
    kind: 'test',
    confidence: 'likely',
    pattern:
      /(?<=["'=])(?:test|sandbox)[_-][A-Za-z0-9]{8,}(?=["'&])|(?<=["'=])[a-z]{2}_test_[A-Za-z0-9]{8,}(?=["'&])/g,
  },
  { kind: 'secret', confidence: 'certain', pattern: /-----BEGIN (?:[A-Z]+ )*PRIVATE KEY-----/g },
  {
    kind: 'secret',
    confidence: 'certain',
    pattern: /(?<=["'=])(?:sk|rk)_(?:live|prod)_[A-Za-z0-9]{12,}(?=["'&])/g,
  },
  {
    kind: 'secret',
    confidence: 'likely',
    pattern:
      /\b(?:secret|client_secret|clientSecret|api_secret|apiSecret|private_key|privateKey|password|passwd)["']?\s*[:=]\s*["'][^"'\s]{8,}["']/g,
  },
];

/** Values that should not go live as they are. */
export function marksOf(code: string): Mark[] {
  let marks: Mark[] = [];
  for (const { kind, confidence, pattern } of RULES) {
    const found: Mark[] = [];
    // Both lists are in order, so one pass over the two finds what overlaps.
    let next = 0;
    for (const match of code.matchAll(pattern)) {
      const range = { start: match.index, end: match.index + match[0].length };
      while (next < marks.length && marks[next]!.range.end <= range.start) next++;
      const isKnown = next < marks.length && marks[next]!.range.start < range.end;
      if (!isKnown) found.push({ kind, value: match[0], range, confidence });
    }
    if (found.length > 0) marks = [...marks, ...found].sort((a, b) => a.range.start - b.range.start);
  }
  return marks;
}
