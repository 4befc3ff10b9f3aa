import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { items } from './params.js';

/** Who is signed in, and with what. */
export const sessionEndpoints = {
  signIn: {
    method: 'POST',
    path: '/sign-in',
    summary: 'Sign in with a password, for a session cookie or a bearer token',
    body: schemas.signIn,
    response: schemas.signedIn,
    isPublic: true,
  },
  showSession: {
    method: 'GET',
    path: '/session',
    summary: 'Who is signed in',
    response: schemas.member,
    beforePasswordChange: true,
  },
  signOut: { method: 'DELETE', path: '/session', summary: 'Sign out', beforePasswordChange: true },
  changePassword: {
    method: 'PUT',
    path: '/session/password',
    summary: 'Change your password; your other sessions end',
    body: schemas.passwordChange,
    response: schemas.passwordChanged,
    beforePasswordChange: true,
  },
  listSessions: {
    method: 'GET',
    path: '/sessions',
    summary: 'Browsers in which you are signed in',
    response: items(schemas.session),
  },
  endSession: {
    method: 'DELETE',
    path: '/sessions/{session}',
    summary: 'Sign out one of your browsers',
    params: z.strictObject({ session: z.coerce.number().int() }),
  },
  endOtherSessions: {
    method: 'DELETE',
    path: '/sessions',
    summary: 'Sign out everywhere else; tokens stay',
  },
  listTokens: {
    method: 'GET',
    path: '/tokens',
    summary: 'Your bearer tokens',
    response: items(schemas.token),
  },
  createToken: {
    method: 'POST',
    path: '/tokens',
    summary: 'Make a bearer token; the secret is shown once',
    body: schemas.tokenInput,
    response: schemas.token.extend({ secret: z.string() }),
    status: 201,
  },
  removeToken: {
    method: 'DELETE',
    path: '/tokens/{token}',
    summary: 'Revoke a bearer token',
    params: z.strictObject({ token: z.coerce.number().int() }),
  },
} as const satisfies Record<string, Endpoint>;
