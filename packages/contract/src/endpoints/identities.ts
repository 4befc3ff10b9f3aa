import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { items } from './params.js';

/** Signing in at an identity provider (OpenID Connect). */
export const identitiesEndpoints = {
  showSignInWays: {
    method: 'GET',
    path: '/sign-in/ways',
    summary: 'How people can sign in, besides passwords and passkeys',
    needs: 'nothing',
    response: schemas.signInWays,
  },
  beginIdentitySignIn: {
    method: 'POST',
    path: '/sign-in/identity/address',
    summary: 'Where a browser goes to sign in at the identity provider',
    needs: 'nothing',
    body: schemas.identityRequest,
    response: schemas.identityAddress,
  },
  signInWithIdentity: {
    method: 'POST',
    path: '/sign-in/identity',
    summary: 'Sign in with what the identity provider said, for a session cookie',
    needs: 'nothing',
    body: schemas.identityAnswer,
    response: schemas.member,
  },
  listIdentities: {
    method: 'GET',
    path: '/identities',
    summary: 'Whom at the identity provider you are connected with',
    needs: 'account',
    response: items(schemas.identity),
  },
  addIdentity: {
    method: 'POST',
    path: '/identities',
    summary: 'Sign in at the identity provider from now on, too',
    needs: 'account',
    makes: 'identities',
    needsConfirmation: true,
    body: schemas.identityAnswer,
    response: schemas.identity,
    status: 201,
  },
  removeIdentity: {
    method: 'DELETE',
    path: '/identities/{identity}',
    summary: 'Disconnect from somebody at the identity provider',
    needs: 'account',
    needsConfirmation: true,
    params: z.strictObject({ identity: z.coerce.number().int() }),
  },
} as const satisfies Record<string, Endpoint>;
