import type { Response } from 'express';
import { DAY_MS } from '../auth/accounts.js';
import type { Settings } from '../settings.js';
import { LANGUAGE_COOKIE } from '../language/language-of.js';

const KEPT_DAYS = 365;

/** Has a browser keep which language is spoken there; null for none. The console’s page before signing in may change it. */
export function keepLanguage(
  response: Response,
  tag: string | null,
  { PRAGMATICA_SECURE_COOKIES: secure }: Pick<Settings, 'PRAGMATICA_SECURE_COOKIES'>,
): void {
  const options = { sameSite: 'strict', secure, path: '/' } as const;
  if (tag === null) response.clearCookie(LANGUAGE_COOKIE, options);
  else response.cookie(LANGUAGE_COOKIE, tag, { ...options, maxAge: KEPT_DAYS * DAY_MS });
}
