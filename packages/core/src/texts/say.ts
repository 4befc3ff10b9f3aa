import { DEFAULT_LOCALE } from './locale.js';
import { formatMessage, type Params } from './message.js';
import type { NamesIn } from './names.js';

/** Says a pattern of a catalogue, with just the parameters that it names. */
export type Say = <const Pattern extends string>(
  pattern: Pattern,
  ...params: [NamesIn<Pattern>] extends [never] ? [] : [Params<NamesIn<Pattern>>]
) => string;

/** @param locale - in which numbers, lists and dates are written */
export function sayIn(locale: string): Say {
  return (pattern, ...[params]) => formatMessage(pattern, params, locale);
}

/** What is said where nobody knows yet who will read it. */
export const say: Say = sayIn(DEFAULT_LOCALE);
