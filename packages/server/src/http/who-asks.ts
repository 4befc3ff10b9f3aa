import type { MemberResource } from '@pragmatica/contract';
import type { Request } from 'express';
import { deviceOf } from '@pragmatica/core';
import type { Origin } from '../auth/accounts.js';
import { hasPassword } from '../auth/password.js';
import { mailAddressOf } from '../storage/mail-address.js';
import type { Member } from '../storage/rows.js';
import type { RequestContext } from './context.js';

/** Where a request comes from, as far as it tells. */
export function originOf({ request }: Pick<RequestContext, 'request'>): Origin {
  return { address: request.ip ?? '', device: deviceOf(request.headers) };
}

/** The origin of the service as the browser knows it. */
export function addressOf({ protocol, headers }: Request): string {
  return `${protocol}://${headers.host ?? ''}`;
}

/** A member as the API shows them to themselves. */
export function memberResource(member: Member): MemberResource {
  const { login, name, mustChangePassword, role } = member;
  const mail = mailAddressOf(member);
  const language = member.language ?? null;
  return {
    ...{ login, name, mustChangePassword, mail, language },
    hasPassword: hasPassword(member),
    role: role ?? null,
  };
}
