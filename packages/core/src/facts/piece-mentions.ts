/** Offsets in UTF-16 code units, the end not included. */
interface Range {
  readonly start: number;
  readonly end: number;
}

/** That somebody's words speak of one of several pieces of code. */
export interface PieceMention {
  /** Which piece it is that the words stand at, from 1; undefined where they do not say. */
  readonly own: number | undefined;
  /** How many pieces there are at least. */
  readonly pieces: number;
  /** Whether the words say how many there are, and do not merely speak of a next one. */
  readonly isCounted: boolean;
  /** The words. */
  readonly words: string;
  readonly range: Range;
}

const NUMBERS: Readonly<Record<string, number>> = {
  ...{ one: 1, first: 1, '1st': 1, two: 2, second: 2, '2nd': 2, both: 2, three: 3, third: 3, '3rd': 3 },
  ...{ four: 4, fourth: 4, '4th': 4, other: 2, remaining: 2 },
};
const NUMBER = '(\\d|one|two|three|four)';
const PIECE = '(?:steps?|parts?|pieces?|snippets?|blocks?|scripts?|codes?|tags?|halves|half)';
const PASTE = '(?:paste|add|insert|place|put|copy|include|install)';
/** More words than these are no sentence about a place. */
const MAX_LENGTH = 4_000;

interface Reading {
  readonly pattern: RegExp;
  readonly read: (match: RegExpExecArray, text: string) => Omit<PieceMention, 'words' | 'range'> | undefined;
}

const numberOf = (word: string | undefined): number =>
  word === undefined ? 0 : (NUMBERS[word.toLowerCase()] ?? Number(word));

/** The first reading that fits holds. */
const READINGS: readonly Reading[] = [
  {
    // "Step 2 of 2", "part one of two", "snippet 1/2", "(2/2)"
    pattern: new RegExp(
      String.raw`\b${PIECE}\s*(?:(?:no\.?|number|#)\s*)?${NUMBER}\s*(?:of|out of|/)\s*${NUMBER}\b|\((\d)\s*(?:/|of)\s*(\d)\)`,
      'gi',
    ),
    read: ([, own, pieces, ownShort, piecesShort]) =>
      counted(numberOf(own ?? ownShort), numberOf(pieces ?? piecesShort)),
  },
  {
    // "the second of two snippets"
    pattern: new RegExp(
      String.raw`\b(first|second|third|1st|2nd|3rd)\s+of\s+(?:the\s+)?${NUMBER}\s+(?:code\s+)?${PIECE}\b`,
      'gi',
    ),
    read: ([, own, pieces]) => counted(numberOf(own), numberOf(pieces)),
  },
  {
    // "Step 2: paste …"; a step that is not about code is none of ours
    pattern: new RegExp(
      String.raw`\b${PIECE}\s*(?:(?:no\.?|number|#)\s*)?(1|2|3|4|one|two|three|four)\b(?=[^.\n]{0,80}\b(?:${PASTE}|code|snippet|tag|script|head|body)\b|\s*$|\s*[:.)–-]\s*$)`,
      'gi',
    ),
    read: ([, own]) => ({ own: numberOf(own), pieces: numberOf(own), isCounted: true }),
  },
  {
    // "the second snippet", "the other half"
    pattern: new RegExp(
      String.raw`\b(second|third|2nd|3rd|other|remaining)\s+(?:code\s+)?(?:part|piece|snippet|half|block|code snippet|code block)\b`,
      'gi',
    ),
    read: ([, own]) => ({ own: undefined, pieces: Math.max(2, numberOf(own)), isCounted: true }),
  },
  {
    // "both pieces", "two snippets of code"
    pattern: new RegExp(
      String.raw`\b(both|two|three|2|3)\s+(?:code\s+)?(?:parts|pieces|snippets|blocks|halves|codes)\b`,
      'gi',
    ),
    read: ([, pieces]) => ({ own: undefined, pieces: numberOf(pieces), isCounted: true }),
  },
  {
    // "…, and then paste this …", where something else was pasted before
    pattern: new RegExp(
      String.raw`(?:\b${PASTE}\b[^.;\n]{0,120}[.;,\n]?\s*|^\s*)(?:and\s+)?(?:then|next|afterwards|after that|finally|also|in addition|additionally),?\s+(?:also\s+)?${PASTE}\s+(?:this|the following|these|another|the next|one more)\b`,
      'gi',
    ),
    read: ({ index }, text) => ({
      own: /^\s*(?:and|then|next|also|after|finally|in addition|additionally)/i.test(text.slice(index))
        ? 2
        : undefined,
      pieces: 2,
      isCounted: false,
    }),
  },
];

function counted(own: number, pieces: number): Omit<PieceMention, 'words' | 'range'> | undefined {
  return own >= 1 && own <= pieces && pieces >= 2 && pieces <= 4
    ? { own, pieces, isCounted: true }
    : undefined;
}

/** What a provider's words, or a comment, say of further pieces of code. */
export function pieceMentions(text: string, base = 0): PieceMention[] {
  if (text.length > MAX_LENGTH) return [];
  for (const { pattern, read } of READINGS) {
    const found = [...text.matchAll(pattern)].flatMap((match) => {
      const mention = read(match, text);
      const start = base + match.index;
      const words = match[0].trim();
      return mention ? [{ ...mention, words, range: { start, end: start + match[0].length } }] : [];
    });
    if (found.length > 0) return found;
  }
  return [];
}

/** Comments of one code that are looked at. */
const MAX_COMMENTS = 300;

/** The same of all comments in a code. */
export function mentionsInComments(code: string): PieceMention[] {
  return [
    ...commentsBetween(code, '<!--', '-->'),
    ...commentsBetween(code, '/*', '*/'),
    ...lineComments(code),
  ]
    .slice(0, MAX_COMMENTS)
    .flatMap(({ text, start }) => pieceMentions(text, start))
    .sort((a, b) => a.range.start - b.range.start);
}

interface Comment {
  readonly text: string;
  readonly start: number;
}

function commentsBetween(code: string, open: string, close: string): Comment[] {
  const found: Comment[] = [];
  for (let from = code.indexOf(open); from >= 0;) {
    const start = from + open.length;
    const end = code.indexOf(close, start);
    if (end < 0) break;
    found.push({ text: code.slice(start, end), start });
    from = code.indexOf(open, end + close.length);
  }
  return found;
}

function lineComments(code: string): Comment[] {
  return [...code.matchAll(/^[ \t]*\/\/([^\n]*)/gm)].map((match) => ({
    text: match[1]!,
    start: match.index + match[0].length - match[1]!.length,
  }));
}
