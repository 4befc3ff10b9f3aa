import { mayAt, type Access, type Right } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import type { Site } from '../storage/rows.js';

/** @throws ServiceError 404 where whoever asks does not see the site, 403 where the right is missing */
export function assertMay(access: Access, { key, name }: Pick<Site, 'key' | 'name'>, right: Right): void {
  if (!mayAt(access, key, 'view')) throw new ServiceError('no-such-site', { site: key });
  if (!mayAt(access, key, right))
    throw new ServiceError('site-right-missing', { site: name, right, owners: [], count: 0 });
}
