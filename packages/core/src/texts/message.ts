import { IntlMessageFormat } from 'intl-messageformat';
import { memoizeByText } from '../memoize/by-text.js';
import { clockTimeWords, type ClockTime } from './clock-time.js';
import { calendarDateWords, type CalendarDate } from './calendar-date.js';
import { currentSpeech, localeInLanguage } from './catalogue.js';
import { isDeferredText, deferredMessage, deferredPattern } from './deferred-form.js';
import { DEFAULT_LOCALE } from './locale.js';

/** What fills in a parameter. A list is read as one: "a, b and c". */
export type ParamValue = string | number | readonly string[] | ClockTime | CalendarDate;

export type Params<Name extends string = string> = Readonly<Record<Name, ParamValue>>;

/** Far more than there are messages times the regions of one service's readers. */
const FORMATS_KEPT = 5_000;

const formats = memoizeByText(FORMATS_KEPT, (key) => {
  const end = key.indexOf(' ');
  return new IntlMessageFormat(key.slice(end + 1), key.slice(0, end), undefined, { ignoreTag: true });
});

const lists = memoizeByText(
  FORMATS_KEPT,
  (locale) => new Intl.ListFormat(locale, { style: 'long', type: 'conjunction' }),
);

/**
 * The text of a message.
 *
 * @param pattern - ICU MessageFormat
 * @param locale - BCP 47, with the region whose numbers and dates are written
 * @throws where a parameter of the pattern is missing
 */
export function formatMessage(pattern: string, params: Params = {}, locale = DEFAULT_LOCALE): string {
  if (isDeferredText(pattern)) return deferredMessage(pattern, params);
  if (!pattern.includes('{') && !pattern.includes("'")) return pattern;
  if (currentSpeech() === 'deferred') return deferredPattern(pattern, params);
  const spokenIn = localeInLanguage(locale);
  const values: Record<string, string | number> = {};
  for (const [name, value] of Object.entries(params)) values[name] = valueWords(value, spokenIn);
  return String(formats(`${spokenIn} ${pattern}`).format(values));
}

function valueWords(value: ParamValue, locale: string): string | number {
  if (typeof value !== 'object') return value;
  if ('zone' in value) return clockTimeWords(value, locale);
  return 'date' in value ? calendarDateWords(value, locale) : lists(locale).format(value);
}
