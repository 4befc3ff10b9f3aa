/** The beginning of a name after an @, where somebody is typing just now. */
export interface TypedMention {
  /** Where its @ stands. */
  readonly start: number;
  readonly typed: string;
}

const UNFINISHED = /(?:^|[^\p{L}\p{N}._+@-])@([\p{L}\p{N}._@+-]*)$/u;

/** @returns undefined where no name is being typed */
export function mentionAt(text: string, caret: number): TypedMention | undefined {
  // A name is no longer than this: what stands before it is not looked at.
  const found = UNFINISHED.exec(text.slice(Math.max(0, caret - 130), caret));
  return found ? { start: caret - found[1]!.length - 1, typed: found[1]! } : undefined;
}

/** The text with somebody mentioned where the caret stands, in place of what was typed of their name. */
export function withMention(
  text: string,
  caret: number,
  login: string,
): { readonly text: string; readonly caret: number } {
  const start = mentionAt(text, caret)?.start ?? caret;
  const before = text.slice(0, start);
  const gap = before === '' || /\s$/.test(before) ? '' : ' ';
  const head = `${before}${gap}@${login} `;
  return { text: head + text.slice(caret).replace(/^ /, ''), caret: head.length };
}
