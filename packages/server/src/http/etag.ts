import { ProblemError } from './problems.js';

/** A strong entity tag (RFC 9110, 8.8.3) for a version of something. */
export function etag(value: string | number): string {
  return `"${value}"`;
}

export interface LastChange {
  readonly by: string;
  readonly at: Date;
}

/**
 * Holds `If-Match` (RFC 9110, 13.1.1) against what is there now.
 *
 * @param what - names the thing in the message, e.g. "The draft"
 * @throws ProblemError 412, which says who changed it last and when
 */
export function assertIfMatch(
  ifMatch: string,
  current: string,
  what: string,
  last: LastChange | undefined,
): void {
  const given = ifMatch.split(',').map((tag) => tag.trim());
  if (given.includes('*') || given.includes(current)) return;
  const who = last ? ` ${last.by} changed it at ${last.at.toISOString()}.` : '';
  throw new ProblemError(
    'changed-meanwhile',
    `${what} is no longer what you saw.${who} Nothing was changed now: look at it again, then repeat your change.`,
    last ? { changedBy: last.by, changedAt: last.at.toISOString() } : {},
  );
}
