/** Why a part could not be put into a page. Codes are stable; the words may change. */
const REASONS = {
  frameset: 'The page is a frameset and has no body, so nothing can be placed in one.',
  'no-anchor': 'The page has no element with this id.',
  'anchor-refused':
    'The element with this id cannot hold code or have code before it (it is the page’s own frame, a void element, plain text or a drawing).',
  unfinished:
    'The page breaks off in the middle of a tag, comment, script or text element; anything after that point would be swallowed or would run by accident.',
  'inside-template': 'At this place the page has a template left open; code inside a template does not run.',
  'inside-foreign':
    'At this place the page has a drawing (svg) or a formula (math) left open; code there would become part of it.',
  encoding:
    'The page’s character encoding lacks characters that the code uses, and they cannot be written in another way where they stand.',
  charset:
    'The page declares its character encoding so late that the code would push the declaration out of the first 1,024 bytes, where browsers look for it. Move the declaration to the start of the head.',
  undecided:
    'The page does not say where its body begins, and nothing in the first 256 KB of it shows that it has one.',
  'too-complex': 'The page is too long, or nests its elements too deeply, to be read to this place safely.',
} as const;

export type LeftOutReason = keyof typeof REASONS;

/** The reason in a sentence for somebody who does not program. */
export function reasonWords(reason: LeftOutReason): string {
  return REASONS[reason];
}

/** What is to be said of a part that went in, but not where it normally goes. */
const NOTES = {
  'after-charset':
    'It stands right after the page’s character encoding declaration instead of before it: the declaration must stay in the page’s first 1,024 bytes.',
} as const;

export type InsertNote = keyof typeof NOTES;

/** The note in a sentence for somebody who does not program. */
export function noteWords(note: InsertNote): string {
  return NOTES[note];
}
