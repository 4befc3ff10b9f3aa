/** On which pages a provider wants its code, as far as its words tell. */
export interface SaidPages {
  readonly kind: 'only' | 'all';
  /** Which pages, in the provider's words. */
  readonly words: string;
}

const SPECIAL =
  '(?:(?:order|booking|purchase|payment|checkout|registration|sign-?up)[ -])?(?:confirmation|confirmed|thank[ -]?you|thanks|success|receipt|completed?)|checkout|cart|basket|order|booking|contact|landing|product|login|home|start|front|payment|pricing|search(?: results?)?';
const ONLY: readonly RegExp[] = [
  new RegExp(
    String.raw`\b(?:only|just|solely|exclusively) (?:on|in|into|to|for) (?:the |your |its |each |every )?((?:${SPECIAL}) pages?)\b`,
    'i',
  ),
  new RegExp(
    String.raw`\b(?:on|in|into|to|for|of) (?:the |your |its )?((?:${SPECIAL}) pages?) (?:only|alone)\b`,
    'i',
  ),
  new RegExp(
    String.raw`\b(?:put|paste|add|place|insert|install|include|goes|belongs|copy)\b[^.;]{0,60}\b(?:on|in|into|to) (?:the |your |its )?((?:[a-z]+[ -])?(?:confirmation|thank[ -]?you|success|receipt) pages?)\b`,
    'i',
  ),
  /\b(?:only|just) (?:on|in) ((?:the )?pages? (?:where|that|with) [^.;,]{3,60})/i,
  /\b(?:not|never) (?:on|in) (?:all|every|each) (pages?)\b/i,
];
const ALL =
  /\b(?:on|in|into|to|of) (?:all(?: of)?(?: the| your| its)? pages|every (?:single )?page|each page|the whole (?:web)?site|(?:your|the) entire (?:web)?site)\b|\bsite-?wide\b/i;

/** Longer words are no sentence about pages. */
const MAX_LENGTH = 2_000;

/** The pages that a provider's sentence means; undefined where it says nothing of them. */
export function pagesOfStatement(statement: string): SaidPages | undefined {
  const text = statement.slice(0, MAX_LENGTH).replace(/\s+/g, ' ');
  for (const pattern of ONLY) {
    const words = pattern.exec(text)?.[1];
    if (words !== undefined) return { kind: 'only', words: wordsOf(words) };
  }
  return ALL.test(text) ? { kind: 'all', words: '' } : undefined;
}

function wordsOf(words: string): string {
  if (/^pages?$/i.test(words)) return 'some pages';
  return /^(?:the |pages )/i.test(words) ? words : `the ${words}`;
}
