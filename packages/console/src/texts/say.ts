import { localeInLanguage, readerLocale, sayIn } from '@pragmatica/core';

/** The language that is spoken, as it is written where whoever sits before the browser lives. */
export const LOCALE = localeInLanguage(readerLocale(navigator.languages));

/** A text of the catalogue with its parameters filled in. */
export const say = sayIn(LOCALE);
