import type { CookieOptions, Response } from 'express';
import { DAY_MS } from '../auth/accounts.js';
import type { Settings } from '../settings.js';
import { SESSION_COOKIE } from './authenticate.js';

type CookieSettings = Pick<Settings, 'PRAGMATICA_SESSION_DAYS' | 'PRAGMATICA_SECURE_COOKIES'>;

/** Hands a browser the secret of its session, where neither scripts nor other sites can use it. */
export function openSession(response: Response, secret: string, settings: CookieSettings): void {
  response.cookie(SESSION_COOKIE, secret, {
    ...optionsOf(settings),
    maxAge: settings.PRAGMATICA_SESSION_DAYS * DAY_MS,
  });
}

/** Takes it back. */
export function closeSession(response: Response, settings: CookieSettings): void {
  response.clearCookie(SESSION_COOKIE, optionsOf(settings));
}

function optionsOf({ PRAGMATICA_SECURE_COOKIES: secure }: CookieSettings): CookieOptions {
  return { httpOnly: true, sameSite: 'strict', secure, path: '/' };
}
