import { DEFAULT_LOCALE, sayIn } from '@pragmatica/core';

/** A text of the catalogue with its parameters filled in: for the trail, and for whoever it is. */
export const say = sayIn(DEFAULT_LOCALE);
