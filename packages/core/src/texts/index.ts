export { byteWords } from './byte-words.js';
export { calendarDateWords, type CalendarDate } from './calendar-date.js';
export { clockTimeWords, type ClockTime } from './clock-time.js';
export {
  WRITTEN,
  catalogue,
  currentSpeech,
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
export { lateTexts } from './late-texts.js';
export { DEFAULT_LOCALE, readerLocale } from './locale.js';
export { formatMessage, type ParamValue, type Params } from './message.js';
export { hasKept, withoutMarks } from './kept-form.js';
export type { NamesIn } from './names.js';
export { sayAllKept, sayKept } from './say-kept.js';
export { sayIn, type Say } from './say.js';
