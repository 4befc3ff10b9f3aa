import { queryOptions } from '@tanstack/react-query';
import { api } from './client';

/** Languages that the service speaks. */
export const languagesQuery = queryOptions({
  queryKey: ['languages'],
  queryFn: async () => (await api.call('listLanguages', {})).data.items,
  staleTime: Infinity,
});

/** The service looks there before anybody has signed in. */
const COOKIE = 'pragmatica_language';
const KEPT_S = 365 * 24 * 60 * 60;
const RELOADED = 'pragmatica.language';

/** Shows the page in another language from now on in this browser. */
export function speak(tag: string): void {
  // The service sets it, too, with each look at the session; but the page is asked for before that.
  document.cookie = `${COOKIE}=${encodeURIComponent(tag)}; path=/; max-age=${KEPT_S}; samesite=strict`;
  window.location.reload();
}

/**
 * Loads the page anew in the language that somebody has chosen, where it is in another: texts are taken when it is loaded.
 *
 * @returns whether it does; never twice for the same language, in case the browser keeps no cookies
 */
export function followLanguage(chosen: string | null): boolean {
  if (chosen === null || chosen === document.documentElement.lang) {
    sessionStorage.removeItem(RELOADED);
    return false;
  }
  if (sessionStorage.getItem(RELOADED) === chosen) return false;
  sessionStorage.setItem(RELOADED, chosen);
  speak(chosen);
  return true;
}
