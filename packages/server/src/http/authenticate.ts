import type { Store } from '../storage/store.js';
import type { Endpoint } from '@pragmatica/contract';
import { parse as parseCookies } from 'cookie';
import type { Request } from 'express';
import { findCredential } from '../auth/accounts.js';
import type { Credential } from '../storage/rows.js';
import { ServiceError } from '../errors.js';
import { noteReader } from '../language/language-of.js';

export const SESSION_COOKIE = 'pragmatica_session';

/** Finds out who asks. @throws ServiceError 401, 403 */
export async function authenticate(
  store: Store,
  request: Request,
  endpoint: Pick<Endpoint, 'needs' | 'beforePasswordChange'>,
): Promise<Credential | undefined> {
  if (endpoint.needs === 'nothing') return undefined;
  const credential = await credentialOf(store, request);
  if (!credential) {
    throw new ServiceError('sign-in-first', {});
  }
  noteReader(request, credential);
  if (credential.member.mustChangePassword && !endpoint.beforePasswordChange) {
    throw new ServiceError('own-password-first', {});
  }
  return credential;
}

async function credentialOf(store: Store, request: Request): Promise<Credential | undefined> {
  const bearer = /^Bearer (\S+)$/i.exec(request.headers.authorization ?? '')?.[1];
  if (bearer !== undefined) return findCredential(store, 'token', bearer);
  const session = parseCookies(request.headers.cookie ?? '')[SESSION_COOKIE];
  if (session === undefined) return undefined;
  assertSameOrigin(request);
  return findCredential(store, 'session', session);
}

/** A second lock besides SameSite: a browser that sends the cookie must be on our own page when it changes something. */
function assertSameOrigin(request: Request): void {
  if (request.method === 'GET' || request.method === 'HEAD') return;
  const origin = request.headers.origin;
  if (origin === undefined) return;
  if (!URL.canParse(origin) || new URL(origin).host !== request.headers.host) {
    throw new ServiceError('other-site', {});
  }
}
