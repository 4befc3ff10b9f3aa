import type { PasteMistake, PasteRule } from './rule.js';
import { DOUBLED_TAGS, END_TAG_IN_STRING, ESCAPED_IN_SCRIPT, INVISIBLES } from './scripts.js';
import { WHOLE_PAGE } from './whole-page.js';
import { FENCE, NUMBERED, QUOTED } from './wrappings.js';

/** From the outside in: what is around the code hides what is wrong with it. One more is one more line. */
const RULES: readonly PasteRule[] = [
  FENCE,
  QUOTED,
  NUMBERED,
  INVISIBLES,
  WHOLE_PAGE,
  DOUBLED_TAGS,
  END_TAG_IN_STRING,
  ESCAPED_IN_SCRIPT,
];

/** Longer code is no paste of a person's. */
const MAX_LENGTH = 300_000;

/** All that went wrong in pasting, also what shows only when something else is put right. */
export function pasteMistakes(code: string): PasteMistake[] {
  if (code.length > MAX_LENGTH) return [];
  const mistakes: PasteMistake[] = [];
  let current = code;
  for (const rule of RULES) {
    const range = rule.find(current);
    if (!range) continue;
    const here = rule.find(code);
    const repaired = here && rule.repair(code);
    mistakes.push({
      kind: rule.kind,
      range: here ?? { start: 0, end: Math.min(40, code.length) },
      confidence: 'certain',
      repaired: repaired === code ? undefined : repaired,
    });
    current = rule.repair(current);
  }
  return mistakes;
}
