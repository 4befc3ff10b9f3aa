import { isLanguageSet } from '@pragmatica/contract/node';
import { standingLanguage, type Translation } from '@pragmatica/core';
import { parse as parseCookies } from 'cookie';
import type { Request } from 'express';
import { languageByTag } from './languages.js';

/** Who asks: by a browser’s session, or by a program’s token. */
export interface Reader {
  readonly kind: 'session' | 'token';
  readonly member: { readonly language?: string | null };
}

/** In which language somebody has used a browser last: before they sign in, nothing else tells. */
export const LANGUAGE_COOKIE = 'pragmatica_language';

/**
 * The language in which a request is answered. In a browser it is the one that the member has chosen, then the one that was
 * spoken there last. A program gets the one that it asks for (RFC 9110, 12.5.4), then its member’s. Otherwise it is the
 * installation’s, if one is set, and the one that the browser asks for.
 */
function languageOf(request: Request, credential?: Reader): Translation {
  const chosen = languageNamed(credential?.member.language);
  if (credential?.kind === 'token') return wantedBy(request) ?? chosen ?? standingLanguage();
  const last = languageNamed(parseCookies(request.headers.cookie ?? '')[LANGUAGE_COOKIE]);
  return chosen ?? last ?? (isLanguageSet() ? undefined : wantedBy(request)) ?? standingLanguage();
}

/** No language has a longer tag: anything else is no tag (RFC 5646, 4.4.1). */
const MAX_RANGE = 35;

const readers = new WeakMap<Request, Translation>();

/** Notes who asks: what is answered from now on is in their language. */
export function noteReader(request: Request, credential: Reader): void {
  readers.set(request, languageOf(request, credential));
}

/** The language in which a request is answered, as far as is known who asks. */
export function languageFor(request: Request): Translation {
  return readers.get(request) ?? languageOf(request);
}

function languageNamed(tag: string | null | undefined): Translation | undefined {
  return typeof tag === 'string' ? languageByTag(tag) : undefined;
}

/** The best of those that a request names (RFC 4647, 3.4); undefined where the service speaks none of them. */
function wantedBy(request: Request): Translation | undefined {
  for (const range of request.acceptsLanguages()) {
    if (range.length > MAX_RANGE) continue;
    const subtags = range.split('-');
    for (let length = subtags.length; length > 0; length--) {
      const language = languageByTag(subtags.slice(0, length).join('-'));
      if (language) return language;
    }
  }
  return undefined;
}
