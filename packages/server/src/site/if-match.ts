import { ServiceError } from '../errors.js';
import type { LastChange } from './entity-tag.js';

/**
 * Holds `If-Match` (RFC 9110, 13.1.1) against what is there now.
 *
 * @param what - names the thing in the message, e.g. "The draft"
 * @throws ServiceError 412, which says who changed it last and when
 */
export function assertIfMatch(
  ifMatch: string,
  current: string,
  what: string,
  last: LastChange | undefined,
): void {
  const given = ifMatch.split(',').map((tag) => tag.trim());
  if (given.includes('*') || given.includes(current)) return;
  if (!last) throw new ServiceError('changed-since', { what });
  const at = last.at.toISOString();
  throw new ServiceError(
    'changed-since-by',
    { what, by: last.by, at },
    { changedBy: last.by, changedAt: at },
  );
}
