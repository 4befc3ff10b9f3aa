import type { MemberResource } from '@pragmatica/contract';
import { deviceOf } from '@pragmatica/core';
import type { CookieOptions } from 'express';
import { DAY_MS } from '../auth/accounts.js';
import { Attempts } from '../auth/attempts.js';
import {
  changePassword,
  countTokens,
  createToken,
  endOtherSessions,
  endSession,
  listSessions,
  listTokens,
  removeToken,
  signIn,
  signOut,
} from '../auth/sign-in.js';
import { SESSION_COOKIE } from '../http/authenticate.js';
import type { HandlersOf, RequestContext } from '../http/context.js';
import type { Settings } from '../settings.js';

type Credential = NonNullable<RequestContext['credential']>;

export function sessionHandlers(
  settings: Settings,
  attempts = new Attempts(),
): HandlersOf<
  | 'signIn'
  | 'showSession'
  | 'signOut'
  | 'changePassword'
  | 'listSessions'
  | 'endSession'
  | 'endOtherSessions'
  | 'listTokens'
  | 'createToken'
  | 'removeToken'
> {
  const days = settings.PRAGMATICA_SESSION_DAYS;
  const cookie: CookieOptions = {
    httpOnly: true,
    sameSite: 'strict',
    secure: settings.PRAGMATICA_SECURE_COOKIES,
    path: '/',
    maxAge: days * DAY_MS,
  };
  const doorOf = ({ request }: RequestContext) => ({
    attempts,
    address: request.ip ?? '',
    device: deviceOf(request.headers),
  });

  return {
    async signIn({ body }, context) {
      const { store, response } = context;
      const { member, secret } = await signIn(store, body, doorOf(context), days);
      if (body.as === 'session') response.cookie(SESSION_COOKIE, secret, cookie);
      const token = body.as === 'token' ? secret : null;
      return { data: { member: toResource(member), token, tokens: await countTokens(store, member) } };
    },

    async showSession(_input, context) {
      return { data: toResource(credentialOf(context).member) };
    },

    async signOut(_input, context) {
      await signOut(context.store, credentialOf(context));
      context.response.clearCookie(SESSION_COOKIE, { ...cookie, maxAge: undefined });
      return { data: undefined };
    },

    async changePassword({ body }, context) {
      const { store } = context;
      const member = await changePassword(store, credentialOf(context), body, doorOf(context));
      return { data: { ...toResource(member), tokens: await countTokens(store, member) } };
    },

    async listSessions(_input, context) {
      const own = credentialOf(context);
      const sessions = await listSessions(context.store, own.member);
      return { data: { items: sessions.map((session) => toSession(session, own)) } };
    },

    async endSession({ params }, context) {
      await endSession(context.store, credentialOf(context).member, params.session);
      return { data: undefined };
    },

    async endOtherSessions(_input, context) {
      await endOtherSessions(context.store, credentialOf(context));
      return { data: undefined };
    },

    async listTokens(_input, context) {
      const tokens = await listTokens(context.store, credentialOf(context).member);
      return { data: { items: tokens.map(toToken) } };
    },

    async createToken({ body }, context) {
      const { credential, secret } = await createToken(context.store, credentialOf(context).member, body);
      return { data: { ...toToken(credential), secret } };
    },

    async removeToken({ params }, context) {
      await removeToken(context.store, credentialOf(context).member, params.token);
      return { data: undefined };
    },
  };
}

function credentialOf(context: RequestContext): Credential {
  return context.credential!;
}

function toResource({ login, name, mustChangePassword }: Credential['member']): MemberResource {
  return { login, name, mustChangePassword };
}

function toSession({ id, openedFrom, device, ...times }: Credential, own: Credential) {
  return {
    id,
    openedFrom: openedFrom ?? null,
    device: device ?? null,
    createdAt: times.createdAt.toISOString(),
    lastUsedAt: times.lastUsedAt?.toISOString() ?? null,
    expiresAt: times.expiresAt.toISOString(),
    isThis: id === own.id,
  };
}

function toToken({ id, name, createdAt, lastUsedAt, expiresAt }: Credential) {
  return {
    id,
    name,
    createdAt: createdAt.toISOString(),
    lastUsedAt: lastUsedAt?.toISOString() ?? null,
    expiresAt: expiresAt.toISOString(),
  };
}
