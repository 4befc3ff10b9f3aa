import type { Endpoint } from '@pragmatica/contract';
import type { Access } from '@pragmatica/core';
import type { Request } from 'express';
import { findAccess } from '../auth/access.js';
import type { Credential } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { authenticate } from './authenticate.js';
import { authorize } from './authorize.js';

/** Who asks, and what they may do. */
export interface Admitted {
  readonly credential: Credential | undefined;
  readonly access: Access;
}

/** Lets in whoever may make a call. @throws ServiceError 401, 403, 404 */
export async function admit(
  store: Store,
  endpoint: Pick<Endpoint, 'needs' | 'needsConfirmation' | 'beforePasswordChange'>,
  request: Request,
): Promise<Admitted> {
  const credential = await authenticate(store, request, endpoint);
  const access = await findAccess(store, credential);
  await authorize(store, endpoint, access, siteOf(request));
  return { credential, access };
}

/** The key of the site in an address, where there is one. */
export function siteOf({ params }: Request): string | undefined {
  const { site } = params;
  return typeof site === 'string' ? site : undefined;
}
