import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { items } from './params.js';

/** Signing in without a password (Web Authentication). */
export const passkeysEndpoints = {
  beginPasskeySignIn: {
    method: 'POST',
    path: '/sign-in/passkey/options',
    summary: 'What a browser needs to sign in with a passkey',
    needs: 'nothing',
    response: schemas.passkeyOptions,
  },
  signInWithPasskey: {
    method: 'POST',
    path: '/sign-in/passkey',
    summary: 'Sign in with a passkey, for a session cookie',
    needs: 'nothing',
    body: schemas.passkeySignIn,
    response: schemas.member,
  },
  listPasskeys: {
    method: 'GET',
    path: '/passkeys',
    summary: 'Your passkeys',
    needs: 'account',
    response: items(schemas.passkey),
  },
  beginPasskey: {
    method: 'POST',
    path: '/passkeys/options',
    summary: 'What a browser needs to make a passkey',
    needs: 'account',
    needsConfirmation: true,
    response: schemas.passkeyOptions,
  },
  addPasskey: {
    method: 'POST',
    path: '/passkeys',
    summary: 'Sign in with a passkey from now on, too',
    needs: 'account',
    makes: 'passkeys',
    needsConfirmation: true,
    body: schemas.passkeyInput,
    response: schemas.passkey,
    status: 201,
  },
  removePasskey: {
    method: 'DELETE',
    path: '/passkeys/{passkey}',
    summary: 'Remove a passkey',
    needs: 'account',
    needsConfirmation: true,
    params: z.strictObject({ passkey: z.coerce.number().int() }),
  },
} as const satisfies Record<string, Endpoint>;
