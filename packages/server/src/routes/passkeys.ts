import type { RegistrationResponseJSON } from '@simplewebauthn/server';
import type { Request } from 'express';
import {
  askForPasskey,
  askToSignIn,
  createPasskeyChallenges,
  keepPasskey,
  removePasskey,
  signInWithPasskey,
  type Party,
} from '../auth/passkeys.js';
import type { HandlersOf, RequestContext } from '../http/context.js';
import { openSession } from '../http/session-cookie.js';
import { addressOf, memberResource, originOf } from '../http/who-asks.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import type { Settings } from '../settings.js';
import { passkeysOf } from '../storage/passkeys.js';
import type { Passkey } from '../storage/rows.js';

export function passkeyHandlers(
  settings: Settings,
  box: SecretBox,
): HandlersOf<
  | 'beginPasskeySignIn'
  | 'signInWithPasskey'
  | 'listPasskeys'
  | 'beginPasskey'
  | 'addPasskey'
  | 'removePasskey'
> {
  const challenges = createPasskeyChallenges(box);
  return {
    async beginPasskeySignIn(_input, { request }) {
      return { data: toOptions(await askToSignIn(partyOf(request), challenges)) };
    },

    async signInWithPasskey({ body }, context) {
      const { store, request, response } = context;
      const opening = { from: originOf(context), days: settings.PRAGMATICA_SESSION_DAYS };
      const at = { party: partyOf(request), challenges };
      const { member, secret } = await signInWithPasskey(store, body, at, opening);
      openSession(response, secret, settings);
      return { data: memberResource(member) };
    },

    async listPasskeys(_input, context) {
      const passkeys = await passkeysOf(context.store, memberOf(context));
      return { data: { items: passkeys.map(toResource) } };
    },

    async beginPasskey(_input, context) {
      const { store, request } = context;
      const asked = await askForPasskey(store, memberOf(context), partyOf(request), challenges);
      return { data: toOptions(asked) };
    },

    async addPasskey({ body }, context) {
      const { store, request } = context;
      const at = { party: partyOf(request), challenges };
      const made = { ...body, credential: body.credential as RegistrationResponseJSON };
      return { data: toResource(await keepPasskey(store, memberOf(context), made, at)) };
    },

    async removePasskey({ params }, context) {
      await removePasskey(context.store, memberOf(context), params.passkey);
      return { data: undefined };
    },
  };
}

function memberOf({ credential }: RequestContext) {
  return credential!.member;
}

/** The service at the address that the browser has it at: what a browser signs says which that was. */
function partyOf(request: Request): Party {
  return { id: request.hostname, origin: addressOf(request) };
}

function toOptions({ options, state }: Awaited<ReturnType<typeof askToSignIn>>) {
  return { options: { ...options }, state };
}

function toResource({ id, name, createdAt, lastUsedAt }: Passkey) {
  return {
    ...{ id, name, createdAt: createdAt.toISOString() },
    lastUsedAt: lastUsedAt?.toISOString() ?? null,
  };
}
