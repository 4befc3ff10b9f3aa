import type { Endpoint } from '@pragmatica/contract';
import { mayAt, missingFor, type Access, type Missing } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { ownerNames } from '../storage/memberships.js';
import { siteByKey } from '../storage/sites.js';
import type { Store } from '../storage/store.js';
import { fieldError } from '../texts/field-errors.js';

/**
 * Whether whoever asks may make a call. What is needed at each of several sites is asked one by one, by what changes them.
 *
 * @param site - key of the site in the address, where there is one
 * @throws ServiceError 403, 404
 */
export async function authorize(
  store: Store,
  { needs, needsConfirmation }: Pick<Endpoint, 'needs' | 'needsConfirmation'>,
  access: Access,
  site: string | undefined,
): Promise<void> {
  const missing = missingFor(needs, access, site);
  if (missing) throw await refusal(store, missing, site);
  // What takes the password is for whoever has one.
  if (needsConfirmation && access.isLimited) throw new ServiceError('token-is-limited', {});
}

/** Whether whoever asks may say what the body says. @throws ServiceError 403 */
export async function authorizeFields(
  store: Store,
  { fieldNeeds = {} }: Pick<Endpoint, 'fieldNeeds'>,
  access: Access,
  { site, body }: { readonly site: string | undefined; readonly body: unknown },
): Promise<void> {
  if (site === undefined || typeof body !== 'object' || body === null) return;
  for (const [field, right] of Object.entries(fieldNeeds)) {
    if (!(field in body) || mayAt(access, site, right)) continue;
    const errors = [fieldError(`/${field}`, 'not-yours-to-change', {})];
    const { id, params } = await siteRightMissing(store, site, right);
    throw new ServiceError(id, params, { errors });
  }
}

async function refusal(store: Store, missing: Missing, site = ''): Promise<ServiceError> {
  switch (missing.what) {
    case 'site-hidden':
      return new ServiceError('no-such-site', { site });
    case 'site-right':
      return siteRightMissing(store, site, missing.right);
    case 'installation-right':
      return new ServiceError('installation-right-missing', { right: missing.right });
    case 'whole-account':
      return new ServiceError('token-is-limited', {});
  }
}

async function siteRightMissing(
  store: Store,
  key: string,
  right: string,
): Promise<ServiceError<'site-right-missing'>> {
  const [site, owners] = [await siteByKey(store, key), await ownerNames(store, key)];
  const name = site?.name ?? key;
  return new ServiceError('site-right-missing', { site: name, right, owners, count: owners.length });
}
