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
    needs: 'nothing',
    body: schemas.signIn,
    response: schemas.signedIn,
  },
  showSession: {
    method: 'GET',
    path: '/session',
    summary: 'Who is signed in',
    needs: 'sign-in',
    response: schemas.member,
    beforePasswordChange: true,
  },
  signOut: {
    method: 'DELETE',
    path: '/session',
    summary: 'Sign out',
    needs: 'sign-in',
    beforePasswordChange: true,
  },
  changePassword: {
    method: 'PUT',
    path: '/session/password',
    summary: 'Change your password; your other sessions end',
    needs: 'account',
    body: schemas.passwordChange,
    response: schemas.passwordChanged,
    beforePasswordChange: true,
  },
  listSessions: {
    method: 'GET',
    path: '/sessions',
    summary: 'Browsers in which you are signed in',
    needs: 'account',
    response: items(schemas.session),
  },
  endSession: {
    method: 'DELETE',
    path: '/sessions/{session}',
    summary: 'Sign out one of your browsers',
    needs: 'account',
    params: z.strictObject({ session: z.coerce.number().int() }),
  },
  endOtherSessions: {
    method: 'DELETE',
    path: '/sessions',
    summary: 'Sign out everywhere else; tokens stay',
    needs: 'account',
  },
  listTokens: {
    method: 'GET',
    path: '/tokens',
    summary: 'Your bearer tokens',
    needs: 'account',
    response: items(schemas.token),
  },
  createToken: {
    method: 'POST',
    path: '/tokens',
    summary: 'Make a bearer token; the secret is shown once',
    needs: 'account',
    body: schemas.tokenInput,
    response: schemas.token.extend({ secret: z.string() }),
    status: 201,
  },
  removeToken: {
    method: 'DELETE',
    path: '/tokens/{token}',
    summary: 'Revoke a bearer token',
    needs: 'account',
    params: z.strictObject({ token: z.coerce.number().int() }),
  },
} as const satisfies Record<string, Endpoint>;
