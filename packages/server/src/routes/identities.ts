import type { Request } from 'express';
import { addIdentity, assertProvider, removeIdentity, signInWithIdentity } from '../auth/identities.js';
import type { IdentityProvider } from '../auth/identity-provider.js';
import type { HandlersOf } from '../http/context.js';
import { openSession } from '../http/session-cookie.js';
import { addressOf, memberResource, originOf } from '../http/who-asks.js';
import type { Settings } from '../settings.js';
import { identitiesOf } from '../storage/identities.js';
import type { Identity } from '../storage/rows.js';

export function identityHandlers(
  settings: Settings,
  provider: IdentityProvider | undefined,
): HandlersOf<
  | 'showSignInWays'
  | 'beginIdentitySignIn'
  | 'signInWithIdentity'
  | 'listIdentities'
  | 'addIdentity'
  | 'removeIdentity'
> {
  // The provider sends browsers only where it was told to: to the one address that is set, or else to the one in use.
  const homeOf = (request: Request): string =>
    settings.PRAGMATICA_ADDRESS === undefined
      ? addressOf(request)
      : new URL(settings.PRAGMATICA_ADDRESS).origin;

  return {
    showSignInWays() {
      return Promise.resolve({ data: { identityProvider: provider ? { name: provider.name } : null } });
    },

    async beginIdentitySignIn({ body }, { request }) {
      return { data: await assertProvider(provider).begin(homeOf(request), body) };
    },

    async signInWithIdentity({ body }, context) {
      const opening = { from: originOf(context), days: settings.PRAGMATICA_SESSION_DAYS };
      const at = assertProvider(provider);
      const { member, secret } = await signInWithIdentity(context.store, body, at, opening);
      openSession(context.response, secret, settings);
      return { data: memberResource(member) };
    },

    async listIdentities(_input, { store, credential }) {
      const identities = await identitiesOf(store, credential!.member);
      return { data: { items: identities.map(toResource) } };
    },

    async addIdentity({ body }, { store, credential }) {
      const made = await addIdentity(store, credential!.member, body, assertProvider(provider));
      return { data: toResource(made) };
    },

    async removeIdentity({ params }, { store, credential }) {
      await removeIdentity(store, credential!.member, params.identity);
      return { data: undefined };
    },
  };
}

function toResource({ id, name, issuer, createdAt, lastUsedAt }: Identity) {
  return {
    ...{ id, name, issuer, createdAt: createdAt.toISOString() },
    lastUsedAt: lastUsedAt?.toISOString() ?? null,
  };
}
