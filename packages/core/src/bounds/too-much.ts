/** What a text is too much of, to be read within the bounds that every reader keeps. */
export type TooMuch = 'nesting' | 'length' | 'work';

/** Thrown inside the readers and caught where each of them begins: whatever is pasted, reading it ends. */
export class TooMuchError extends Error {
  readonly what: TooMuch;

  constructor(what: TooMuch) {
    super(`too much ${what}`);
    this.name = 'TooMuchError';
    this.what = what;
  }
}

/** What an error says of the text that was read; undefined for an error that is none of its. */
export function tooMuchOf(error: unknown): TooMuch | undefined {
  if (error instanceof TooMuchError) return error.what;
  // The engine's own limits, where a bound of ours was too wide for the stack that there is.
  if (error instanceof SyntaxError && error.message.startsWith('Not enough stack space')) return 'nesting';
  if (!(error instanceof RangeError)) return undefined;
  if (error.message.includes('call stack')) return 'nesting';
  return error.message.includes('string length') ? 'length' : undefined;
}

/** Markup is nested so deep at most; browsers flatten it from here on. */
export const MAX_MARKUP_DEPTH = 512;
