import { readerLocale, sayIn } from '@pragmatica/core';

/** Where whoever sits before the browser lives. */
export const LOCALE = readerLocale(navigator.languages);

/** A text of the catalogue with its parameters filled in. */
export const say = sayIn(LOCALE);
