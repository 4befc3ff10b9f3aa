import { localeInLanguage, readerLocale, sayIn } from '@pragmatica/core';

/** Where whoever sits at the terminal lives, as the system says it (POSIX, 8.2: LC_ALL before LC_TIME before LANG). */
export const LOCALE = localeOf(process.env);

/** The language that commands speak, with that region: the service answers in it. */
export const SPOKEN = localeInLanguage(LOCALE);

/** A text of the catalogue with its parameters filled in. */
export const say = sayIn(LOCALE);

/** `de_AT.UTF-8` is a reader in Austria; C and POSIX say nothing. */
function localeOf({ LC_ALL, LC_TIME, LANG }: NodeJS.ProcessEnv): string {
  const [tag = ''] = (LC_ALL || LC_TIME || LANG || '').split(/[.@]/);
  return readerLocale(/^[a-z]{2,3}_[A-Z]{2}$/.test(tag) ? [tag.replace('_', '-')] : []);
}
