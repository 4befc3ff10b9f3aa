import type { MemberResource } from '@pragmatica/contract';
import { deviceOf } from '@pragmatica/core';
import type { Origin } from '../auth/accounts.js';
import type { Member } from '../storage/rows.js';
import type { RequestContext } from './context.js';

/** Where a request comes from, as far as it tells. */
export function originOf({ request }: Pick<RequestContext, 'request'>): Origin {
  return { address: request.ip ?? '', device: deviceOf(request.headers) };
}

/** A member as the API shows them to themselves. */
export function memberResource({ login, name, mustChangePassword, role }: Member): MemberResource {
  return { login, name, mustChangePassword, role: role ?? null };
}
