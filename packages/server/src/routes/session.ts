import type { MemberResource } from '@pragmatica/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { CookieOptions, Response } from 'express';
import { CredentialEntity, MemberEntity, type Credential, type Member } from '../storage/entities/index.js';
import { Attempts } from '../auth/attempts.js';
import { DAY_MS, createCredential } from '../auth/accounts.js';
import { checkDecoy, hashPassword, isPassword } from '../auth/secrets.js';
import { SESSION_COOKIE } from '../http/authenticate.js';
import type { HandlersOf, RequestContext } from '../http/context.js';
import { ServiceError } from '../errors.js';
import { fieldError } from '../texts/field-errors.js';
import type { Settings } from '../settings.js';
import { audit } from '../site/site-lock.js';

const TOKEN_DAYS = 365;

export function sessionHandlers(
  settings: Settings,
  attempts = new Attempts(),
): HandlersOf<
  'signIn' | 'showSession' | 'signOut' | 'changePassword' | 'listTokens' | 'createToken' | 'removeToken'
> {
  const cookie: CookieOptions = {
    httpOnly: true,
    sameSite: 'strict',
    secure: settings.PRAGMATICA_SECURE_COOKIES,
    path: '/',
    maxAge: settings.PRAGMATICA_SESSION_DAYS * DAY_MS,
  };

  return {
    async signIn({ body }, { em, request, response }) {
      const address = request.ip ?? '';
      assertNoWait(attempts, body.login, address, response);
      const member = await em.findOne(MemberEntity, { login: body.login });
      const isRight = member
        ? await isPassword(member.passwordHash, body.password)
        : await checkDecoy(body.password);
      if (!member || !isRight) {
        attempts.failed(body.login, address);
        throw new ServiceError('wrong-password', {});
      }
      attempts.succeeded(body.login, address);
      if (body.newPassword !== undefined) {
        await replacePassword(member, body.password, body.newPassword, '/newPassword');
        await endOthers(em, member, body.endTokens);
      } else if (member.mustChangePassword && body.as === 'token') {
        throw new ServiceError('own-password-along', {});
      }
      const days = body.as === 'session' ? settings.PRAGMATICA_SESSION_DAYS : TOKEN_DAYS;
      const { secret } = createCredential(
        em,
        member,
        body.as,
        body.tokenName ?? (body.as === 'session' ? 'console' : 'command line'),
        days,
      );
      audit(em, null, member.login, 'sign-in', `Signed in (${body.as === 'session' ? 'console' : 'token'}).`);
      await em.flush();
      if (body.as === 'session') response.cookie(SESSION_COOKIE, secret, cookie);
      const token = body.as === 'token' ? secret : null;
      return { data: { member: toResource(member), token, tokens: await countTokens(em, member) } };
    },

    async showSession(_input, context) {
      return { data: toResource(credentialOf(context).member) };
    },

    async signOut(_input, context) {
      await context.em.nativeDelete(CredentialEntity, { id: credentialOf(context).id });
      context.response.clearCookie(SESSION_COOKIE, { ...cookie, maxAge: undefined });
      return { data: undefined };
    },

    async changePassword({ body }, context) {
      const { em } = context;
      const credential = credentialOf(context);
      const member = credential.member;
      const address = context.request.ip ?? '';
      assertNoWait(attempts, member.login, address, context.response);
      if (!(await isPassword(member.passwordHash, body.current))) {
        attempts.failed(member.login, address);
        const errors = [fieldError('/current', 'not-your-password', {})];
        throw new ServiceError('current-password-wrong', {}, { errors });
      }
      attempts.succeeded(member.login, address);
      await replacePassword(member, body.current, body.new, '/new');
      await endOthers(em, member, body.endTokens, credential);
      audit(em, null, member.login, 'password', 'Changed the password.');
      await em.flush();
      return { data: { ...toResource(member), tokens: await countTokens(em, member) } };
    },

    async listTokens(_input, context) {
      const tokens = await context.em.find(
        CredentialEntity,
        { member: credentialOf(context).member, kind: 'token' },
        { orderBy: { id: 'asc' } },
      );
      return { data: { items: tokens.map(toToken) } };
    },

    async createToken({ body }, context) {
      const { em } = context;
      const member = credentialOf(context).member;
      const { credential, secret } = createCredential(em, member, 'token', body.name, body.days);
      audit(em, null, member.login, 'token', `Made the token “${body.name}”.`);
      await em.flush();
      return { data: { ...toToken(credential), secret } };
    },

    async removeToken({ params }, context) {
      const { em } = context;
      const member = credentialOf(context).member;
      const count = await em.nativeDelete(CredentialEntity, { id: params.token, member, kind: 'token' });
      if (count === 0) throw new ServiceError('no-such-token', {});
      audit(em, null, member.login, 'token', 'Took a token back.');
      await em.flush();
      return { data: undefined };
    },
  };
}

/** @throws ServiceError 429, which says for how long */
function assertNoWait(attempts: Attempts, login: string, address: string, response: Response): void {
  const wait = attempts.wait(login, address);
  if (wait === 0) return;
  const seconds = Math.ceil(wait / 1000);
  response.setHeader('Retry-After', seconds);
  throw seconds < 120
    ? new ServiceError('wait-seconds', { seconds })
    : new ServiceError('wait-minutes', { minutes: Math.ceil(seconds / 60) });
}

/**
 * A new password ends every session that the old one opened, whoever opened it, and, when asked, all tokens.
 *
 * @param own - the credential that goes on
 */
async function endOthers(
  em: EntityManager,
  member: Member,
  endTokens: boolean,
  own?: Credential,
): Promise<void> {
  const others = own ? { id: { $ne: own.id } } : {};
  await em.nativeDelete(CredentialEntity, { member, kind: 'session', ...others });
  if (endTokens) await em.nativeDelete(CredentialEntity, { member, kind: 'token', ...others });
}

/** Tokens of a member that are still valid: a new password does not end them by itself. */
async function countTokens(em: EntityManager, member: Member): Promise<number> {
  return em.count(CredentialEntity, { member, kind: 'token', expiresAt: { $gt: new Date() } });
}

async function replacePassword(
  member: Member,
  current: string,
  next: string,
  pointer: string,
): Promise<void> {
  if (next === current) {
    throw new ServiceError('same-password', {}, { errors: [fieldError(pointer, 'another-password', {})] });
  }
  member.passwordHash = await hashPassword(next);
  member.mustChangePassword = false;
}

function credentialOf(context: RequestContext): Credential {
  return context.credential!;
}

function toResource({ login, name, mustChangePassword }: Member): MemberResource {
  return { login, name, mustChangePassword };
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
