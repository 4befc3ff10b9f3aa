export { byteWords } from './byte-words.js';
export type { CalendarDate } from './calendar-date.js';
export { clockTimeWords, type ClockTime } from './clock-time.js';
export {
  WRITTEN,
  catalogue,
  localeInLanguage,
  languageTag,
  parseTranslation,
  setTranslation,
  speakByMoment,
  speechKey,
  standingLanguage,
  writtenTexts,
  type Speech,
  type Translation,
  type TextTree,
} from './catalogue.js';
export { lazyTexts } from './lazy-texts.js';
export { DEFAULT_LOCALE, readerLocale } from './locale.js';
export { formatMessage, type ParamValue, type Params } from './message.js';
export { hasDeferred, withoutMarks } from './deferred-form.js';
export type { NamesIn } from './names.js';
export { sayAllDeferred, sayDeferred } from './say-deferred.js';
export { sayIn, type Say } from './say.js';
