export { byteWords } from './byte-words.js';
export { clockTimeWords, type ClockTime } from './clock-time.js';
export {
  activeTranslation,
  catalogue,
  localeInLanguage,
  languageTag,
  parseTranslation,
  setTranslation,
  writtenTexts,
  type Translation,
  type TextTree,
} from './catalogue.js';
export { DEFAULT_LOCALE, readerLocale } from './locale.js';
export { formatMessage, type ParamValue, type Params } from './message.js';
export type { NamesIn } from './names.js';
export { sayIn, type Say } from './say.js';
