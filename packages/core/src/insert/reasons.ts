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
    'The page’s character encoding lacks characters that the code uses, or is one that code cannot be put into.',
} as const;

export type LeftOutReason = keyof typeof REASONS;

/** The reason in a sentence for somebody who does not program. */
export function reasonWords(reason: LeftOutReason): string {
  return REASONS[reason];
}
