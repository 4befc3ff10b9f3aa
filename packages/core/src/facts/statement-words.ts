export type PlaceToken =
  | 'head-closes'
  | 'head-opens'
  | 'head-tag'
  | 'head'
  | 'body-closes'
  | 'body-opens'
  | 'body-tag'
  | 'body-tag-in-words'
  | 'body'
  | 'footer'
  | 'page-ends'
  | 'source-begins'
  | 'page';

/** What the words of a sentence about a place come to. */
export type StatementToken =
  | { readonly kind: 'place'; readonly place: PlaceToken }
  | { readonly kind: 'side'; readonly side: 'before' | 'after' | 'in'; readonly isBetween?: true }
  | { readonly kind: 'edge'; readonly edge: 'opens' | 'closes' }
  | { readonly kind: 'end'; readonly end: 'top' | 'bottom'; readonly isAsFarAsPossible?: true }
  | {
      readonly kind: 'denial' | 'but' | 'choice' | 'fallback' | 'where-it-shows' | 'comma' | 'stop';
    };

const HEAD = String.raw`<?head(?:er)?>?`;
const BODY = String.raw`<?body>?`;
const AREA = String.raw`(?:[ -](?:tag|section|element|area|part|box|code|field|html))*`;
const OF = String.raw`(?:of |in |to )?(?:the |your |its |this |that |each |every |a |page's |site's |website's |document's )*`;
const CLOSING = '(?:closing|close|end|ending|final|bottom|foot|tail)';
const OPENING = '(?:opening|open|start|starting|first|beginning|top|begin)';
const ENDS = '(?:closes|ends|finishes|is closed|has closed|is done|has ended|close|end)';
const BEGINS = '(?:opens|starts|begins|is opened|has opened|has started|has begun|start)';
const WHOLE = '(?:page|document|html|source|site|website|file|template|markup)';

const place = (token: PlaceToken): StatementToken => ({ kind: 'place', place: token });
const BEFORE: StatementToken = { kind: 'side', side: 'before' };
const AFTER: StatementToken = { kind: 'side', side: 'after' };
const IN: StatementToken = { kind: 'side', side: 'in' };
const TOP: StatementToken = { kind: 'end', end: 'top' };
const BOTTOM: StatementToken = { kind: 'end', end: 'bottom' };
const REST = String.raw`(?:(?:the )?rest|(?:any|all|every)(?: of)?(?: the)?(?: your)? ?(?:other|others)\b|everything(?: else)?|anything(?: else)?|all else|(?:your |the )?other)(?: (?:code|scripts?|tags?|snippets?|content|things?|lines?))*`;

/** Words and what they come to; at each word the first that fits holds. One more is one more line. */
const WORDS: readonly (readonly [string, StatementToken])[] = [
  // Tags as they are written
  [String.raw`<\s*/\s*head\s*>${AREA}`, place('head-closes')],
  [String.raw`<\s*/\s*body\s*>${AREA}`, place('body-closes')],
  [String.raw`<\s*/\s*html\s*>${AREA}`, place('page-ends')],
  [String.raw`<\s*/\s*footer\s*>${AREA}`, place('footer')],
  // Where a tag closes or opens, in words
  [`${CLOSING} ?(?:tag )?${OF}</?head(?:er)?>${AREA}`, place('head-closes')],
  [`${CLOSING} (?:tag )?${OF}${HEAD}${AREA}\\b`, place('head-closes')],
  [`${HEAD}${AREA}(?:'s)? ${ENDS}\\b`, place('head-closes')],
  [`${HEAD}${AREA}'s ${CLOSING}\\b`, place('head-closes')],
  [`${CLOSING} (?:tag )?${OF}</?body>${AREA}`, place('body-closes')],
  [`${CLOSING} (?:tag )?${OF}${BODY}${AREA}\\b`, place('body-closes')],
  [`${BODY}${AREA}(?:'s)? ${ENDS}\\b`, place('body-closes')],
  [`${BODY}${AREA}'s ${CLOSING}\\b`, place('body-closes')],
  [`${OPENING} (?:tag )?${OF}${HEAD}${AREA}`, place('head-opens')],
  [`${HEAD}${AREA}(?:'s)? ${BEGINS}\\b`, place('head-opens')],
  [`${HEAD}${AREA}'s ${OPENING}\\b`, place('head-opens')],
  [`${OPENING} (?:tag )?${OF}${BODY}${AREA}`, place('body-opens')],
  [`${BODY}${AREA}(?:'s)? ${BEGINS}\\b`, place('body-opens')],
  [`${BODY}${AREA}'s ${OPENING}\\b`, place('body-opens')],
  [`${CLOSING} ${OF}(?:<?footer>?)${AREA}`, place('footer')],
  // All of the page
  [
    `(?:very )?(?:${CLOSING}|last (?:line|thing)) ${OF}${WHOLE}(?:'s)?(?: (?:code|source|markup))?\\b`,
    place('page-ends'),
  ],
  [
    `${OPENING} ${OF}(?:html|source|document|markup|(?:page|site)(?:'s)? (?:code|source|markup))\\b`,
    place('source-begins'),
  ],
  // The places themselves
  [String.raw`<\s*head\b[^>]{0,80}>${AREA}`, place('head-tag')],
  [`head(?:er)?[ -]tags?\\b`, place('head-tag')],
  [`(?:site[ -]?wide )?head(?:er)?s?\\b${AREA}`, place('head')],
  [String.raw`<\s*body\b[^>]{0,80}>${AREA}`, place('body-tag')],
  [`body[ -]tags?\\b`, place('body-tag-in-words')],
  [`body\\b${AREA}`, place('body')],
  [`<?footers?>?${AREA}`, place('footer')],
  [`${WHOLE}s?\\b`, place('page')],
  // Ends of a place
  [
    `as (?:high|far up|early|near(?: to)? the top|close to the top|soon)(?: up)?(?: (?:in|on|within|inside|into) [^,.;]{0,40}?)?(?= as (?:possible|you can|it goes|may be))`,
    { kind: 'end', end: 'top', isAsFarAsPossible: true },
  ],
  [`as (?:low|late|far down|near(?: to)? the (?:bottom|end)|close to the (?:bottom|end))\\b`, BOTTOM],
  [`(?:before|above|ahead of|in front of|prior to) ${REST}`, TOP],
  [`(?:after|below|under|beneath|behind|following) ${REST}`, BOTTOM],
  [`(?:once|when|only after|until) (?:everything|all)(?: else| other \\w+)?\\b`, BOTTOM],
  [
    `(?:the )?(?:very )?(?:first|topmost|uppermost|highest) (?:script|thing|item|element|tag|line|entry|code|snippet|child|one)s?\\b`,
    TOP,
  ],
  [
    `(?:the )?(?:very )?(?:last|lowest|bottommost) (?:script|thing|item|element|tag|line|entry|code|snippet|child|one)s?\\b`,
    BOTTOM,
  ],
  // Of two pieces the first, which is no place
  [`the (?:first|second|last|other)(?: one| piece| part)?(?= (?:in|on|into|goes|belongs|where)\\b)`, IN],
  [`first(?= (?:in|within|inside|into|of|on)\\b)`, TOP],
  [`last(?= (?:in|within|inside|into|of|on)\\b)`, BOTTOM],
  [`on top of`, BEFORE],
  [
    `(?:very |up )?top\\b|(?:very |right at the )?(?:beginning|start)\\b|(?:very |come |comes |goes |go |be )first\\b`,
    TOP,
  ],
  [
    `(?:very )?(?:bottom|foot)\\b|(?:very |at the |the )end\\b|(?:very |come |comes |goes |go |be )last\\b`,
    BOTTOM,
  ],
  [`uppermost|topmost|highest|prepend(?:ed)?`, TOP],
  [`lowest|bottommost|lowermost|append(?:ed)?`, BOTTOM],
  // Its tags, where the place was named before
  [`(?:opening|open|start|starting|first) tag\\b`, { kind: 'edge', edge: 'opens' }],
  [`(?:closing|close|end|ending) tag\\b`, { kind: 'edge', edge: 'closes' }],
  // Sides
  [
    `(?:the|these|those|as) follow(?:ing|s)\\b|following (?:code|snippets?|scripts?|lines?|pieces?|tags?|html)\\b`,
    { kind: 'side', side: 'in' },
  ],
  [`before|above|ahead of|in front of|prior to|preceding|in advance of`, BEFORE],
  [`after|below|under|underneath|beneath|following|behind|once|when|as soon as`, AFTER],
  [`between`, { kind: 'side', side: 'in', isBetween: true }],
  [`in|inside|into|within|to|at|on|of|through|via`, IN],
  // How sentences hang together
  [
    `(?:do not|don't|must not|mustn't|should not|shouldn't|never|not|no longer|rather than|instead of|avoid|outside(?: of)?|without|nowhere in|neither|nor)\\b`,
    { kind: 'denial' },
  ],
  [
    `(?:if (?:that|this|it|you|your|there|not)|otherwise|failing that|should that|where that|unless|only if)\\b`,
    { kind: 'fallback' },
  ],
  [`(?:or|either|alternatively|whichever|wherever|anywhere)\\b`, { kind: 'choice' }],
  [`but\\b`, { kind: 'but' }],
  [
    `(?:where(?:ver)? (?:you|it|the|your)|in(?:to)? the (?:place|spot|position) (?:where|that)|exactly where)\\b`,
    { kind: 'where-it-shows' },
  ],
];

const MATCHERS = WORDS.map(([pattern, token]) => ({
  // What is read as a word begins and ends as one.
  pattern: new RegExp(`(?:${pattern})(?![a-z])`, 'y'),
  token,
}));
/** Longer words are no sentence about a place. */
const MAX_LENGTH = 2_000;

/** What a sentence about a place says, token by token; words that say nothing of it are left out. */
export function* statementTokens(statement: string): Generator<StatementToken> {
  const text = statement
    .slice(0, MAX_LENGTH)
    .replace(/&lt;/gi, '<')
    .replace(/&gt;/gi, '>')
    .replace(/[’‘]/g, "'")
    .replace(/[“”"`*_]/g, '')
    .replace(/\s+/g, ' ')
    .toLowerCase();
  for (let at = 0; at < text.length;) {
    const found = tokenAt(text, at);
    if (found) {
      yield found.token;
      at = found.end;
      continue;
    }
    const character = text[at]!;
    if (character === ',' || character === '(' || character === ')' || character === '–')
      yield { kind: 'comma' };
    if (/[.;:!?]/.test(character) && /[\s)]|$/.test(text[at + 1] ?? '')) yield { kind: 'stop' };
    at = /[a-z]/.test(character) ? endOfWord(text, at) : at + 1;
  }
}

function tokenAt(text: string, at: number): { token: StatementToken; end: number } | undefined {
  for (const { pattern, token } of MATCHERS) {
    pattern.lastIndex = at;
    if (pattern.test(text)) return { token, end: pattern.lastIndex };
  }
  return undefined;
}

function endOfWord(text: string, at: number): number {
  let end = at;
  while (end < text.length && /[a-z'-]/.test(text[end]!)) end++;
  return end;
}
