import { Attempts } from '../auth/attempts.js';
import { confirm } from '../auth/confirm.js';
import type { IdentityProvider } from '../auth/identity-provider.js';
import {
  describeSecondFactor,
  enableSecondFactor,
  proposeSecondFactor,
  removeSecondFactor,
  renewRecoveryCodes,
} from '../auth/second-factor.js';
import { editAccount } from '../auth/accounts.js';
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
  type TokenOfSites,
} from '../auth/sign-in.js';
import type { HandlersOf, RequestContext } from '../http/context.js';
import { keepLanguage } from '../http/language-cookie.js';
import { closeSession, openSession } from '../http/session-cookie.js';
import { memberResource, originOf } from '../http/who-asks.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import type { Settings } from '../settings.js';

type Credential = NonNullable<RequestContext['credential']>;

export function sessionHandlers(
  settings: Settings,
  box: SecretBox,
  provider: IdentityProvider | undefined,
  attempts = new Attempts(),
): HandlersOf<
  | 'signIn'
  | 'showSession'
  | 'editAccount'
  | 'signOut'
  | 'changePassword'
  | 'checkConfirmation'
  | 'confirmPassword'
  | 'showSecondFactor'
  | 'proposeSecondFactor'
  | 'enableSecondFactor'
  | 'removeSecondFactor'
  | 'renewRecoveryCodes'
  | 'listSessions'
  | 'endSession'
  | 'endOtherSessions'
  | 'listTokens'
  | 'createToken'
  | 'removeToken'
> {
  const doorOf = (context: RequestContext) => ({ attempts, ...originOf(context) });

  return {
    async signIn({ body }, context) {
      const { store, response } = context;
      const { member, secret } = await signIn(store, body, doorOf(context), {
        sessionDays: settings.PRAGMATICA_SESSION_DAYS,
        box,
      });
      if (body.as === 'session') openSession(response, secret, settings);
      const token = body.as === 'token' ? secret : null;
      return { data: { member: memberResource(member), token, tokens: await countTokens(store, member) } };
    },

    async showSession(_input, context) {
      const { kind, member } = credentialOf(context);
      // The page itself is asked for without a session: what it is said in is kept by the browser.
      if (kind === 'session' && typeof member.language === 'string')
        keepLanguage(context.response, member.language, settings);
      return { data: memberResource(member) };
    },

    async editAccount({ body }, context) {
      const credential = credentialOf(context);
      const member = await editAccount(context.store, credential, body);
      if (body.language !== undefined && credential.kind === 'session')
        keepLanguage(context.response, body.language, settings);
      return { data: memberResource(member) };
    },

    async signOut(_input, context) {
      await signOut(context.store, credentialOf(context));
      closeSession(context.response, settings);
      return { data: undefined };
    },

    async changePassword({ body }, context) {
      const { store } = context;
      const how = { door: doorOf(context), minutes: settings.PRAGMATICA_CONFIRMATION_MINUTES };
      const member = await changePassword(store, credentialOf(context), body, how);
      return { data: { ...memberResource(member), tokens: await countTokens(store, member) } };
    },

    // Whoever has not given it was refused before.
    async checkConfirmation() {
      return Promise.resolve({ data: undefined });
    },

    async confirmPassword({ body }, context) {
      const minutes = settings.PRAGMATICA_CONFIRMATION_MINUTES;
      const how = { door: doorOf(context), provider, minutes };
      const until = await confirm(context.store, credentialOf(context), body, how);
      return { data: { until: until.toISOString() } };
    },

    async showSecondFactor(_input, context) {
      return { data: await describeSecondFactor(context.store, credentialOf(context).member) };
    },

    proposeSecondFactor(_input, context) {
      return Promise.resolve({ data: proposeSecondFactor(credentialOf(context).member) });
    },

    async enableSecondFactor({ body }, context) {
      const { member } = credentialOf(context);
      return { data: { codes: await enableSecondFactor(context.store, member, body, box) } };
    },

    async removeSecondFactor(_input, context) {
      await removeSecondFactor(context.store, credentialOf(context).member, context.actor);
      return { data: undefined };
    },

    async renewRecoveryCodes(_input, context) {
      return { data: { codes: await renewRecoveryCodes(context.store, credentialOf(context).member) } };
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
      const { member } = credentialOf(context);
      const made = await createToken(context.store, { member, access: context.access }, body);
      return { data: { ...toToken(made), secret: made.secret } };
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

function toToken({ credential, sites }: TokenOfSites) {
  const { id, name, createdAt, lastUsedAt, expiresAt, role } = credential;
  return {
    id,
    name,
    createdAt: createdAt.toISOString(),
    lastUsedAt: lastUsedAt?.toISOString() ?? null,
    expiresAt: expiresAt.toISOString(),
    role: role ?? null,
    sites: sites && [...sites],
  };
}
