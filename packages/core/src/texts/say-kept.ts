import { currentSpeech, textAt } from './catalogue.js';
import { hasKept, replaceKept } from './kept-form.js';
import { DEFAULT_LOCALE } from './locale.js';
import { formatMessage, type Params } from './message.js';

/**
 * Says in the language of the moment what was kept for its readers. Where texts are kept at the moment, too, it stays as
 * it is.
 *
 * @param locale - in which numbers, lists and dates are written
 * @throws Error where a text is not there any more
 */
export function sayKept(text: string, locale = DEFAULT_LOCALE): string {
  if (!hasKept(text) || currentSpeech() === 'kept') return text;
  return replaceKept(text, ({ of, params }) => {
    const pattern = typeof of === 'string' ? of : textAt(of);
    if (pattern === undefined) throw new Error(`There is no text ${String(of)}.`);
    return params === undefined
      ? pattern
      : formatMessage(pattern, sayAllKept(params as Params, locale), locale);
  });
}

/** The same for every text in plain data. */
export function sayAllKept<Data>(data: Data, locale = DEFAULT_LOCALE): Data {
  if (currentSpeech() === 'kept' || !holdsKept(data)) return data;
  return mapTexts(data, (text) => sayKept(text, locale)) as Data;
}

function holdsKept(data: unknown): boolean {
  if (typeof data === 'string') return hasKept(data);
  return typeof data === 'object' && data !== null && Object.values(data).some(holdsKept);
}

function mapTexts(data: unknown, change: (text: string) => string): unknown {
  if (typeof data === 'string') return change(data);
  if (Array.isArray(data)) return data.map((entry) => mapTexts(entry, change));
  if (typeof data !== 'object' || data === null) return data;
  return Object.fromEntries(Object.entries(data).map(([name, value]) => [name, mapTexts(value, change)]));
}
