import { currentSpeech, textAt } from './catalogue.js';
import { hasDeferred, replaceDeferred } from './deferred-form.js';
import { DEFAULT_LOCALE } from './locale.js';
import { formatMessage, type Params } from './message.js';

/**
 * Says in the language of the moment what was deferred. Where texts are deferred at the moment, too, it stays as
 * it is.
 *
 * @param locale - in which numbers, lists and dates are written
 * @throws Error where a text is not there any more
 */
export function sayDeferred(text: string, locale = DEFAULT_LOCALE): string {
  if (!hasDeferred(text) || currentSpeech() === 'deferred') return text;
  return replaceDeferred(text, ({ of, params }) => {
    const pattern = typeof of === 'string' ? of : textAt(of);
    if (pattern === undefined) throw new Error(`There is no text ${String(of)}.`);
    return params === undefined
      ? pattern
      : formatMessage(pattern, sayAllDeferred(params as Params, locale), locale);
  });
}

/** The same for every text in plain data. */
export function sayAllDeferred<Data>(data: Data, locale = DEFAULT_LOCALE): Data {
  if (currentSpeech() === 'deferred' || !holdsDeferred(data)) return data;
  return mapTexts(data, (text) => sayDeferred(text, locale)) as Data;
}

function holdsDeferred(data: unknown): boolean {
  if (typeof data === 'string') return hasDeferred(data);
  return typeof data === 'object' && data !== null && Object.values(data).some(holdsDeferred);
}

function mapTexts(data: unknown, change: (text: string) => string): unknown {
  if (typeof data === 'string') return change(data);
  if (Array.isArray(data)) return data.map((entry) => mapTexts(entry, change));
  if (typeof data !== 'object' || data === null) return data;
  return Object.fromEntries(Object.entries(data).map(([name, value]) => [name, mapTexts(value, change)]));
}
