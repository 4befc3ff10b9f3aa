import { wordFinding, type UnwordedFinding } from '@pragmatica/core';
import type { FixDraftResult } from './fix-draft.js';

/** Findings in the language of whoever asks, as they write numbers and dates. */
export function worded<T extends UnwordedFinding>(findings: readonly T[], locale: string) {
  return findings.map((finding) => wordFinding(finding, locale));
}

export function wordedFix(result: FixDraftResult, locale: string) {
  return { ...result, fixed: worded(result.fixed, locale), left: worded(result.left, locale) };
}
