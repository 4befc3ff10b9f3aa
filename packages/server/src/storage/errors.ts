import {
  CheckConstraintViolationException,
  OptimisticLockError,
  UniqueConstraintViolationException,
} from '@mikro-orm/core';

/** What the database says no to, in the service's own words. */
export type StorageProblem = 'changed-at-once' | 'exists-already' | 'value-refused' | 'away' | 'full';

/** Translates the driver's errors, once; elsewhere nobody reads its codes. @returns undefined for what is none of them */
export function storageProblem(error: unknown): StorageProblem | undefined {
  if (error instanceof OptimisticLockError) return 'changed-at-once';
  if (error instanceof UniqueConstraintViolationException) return 'exists-already';
  if (isDatabaseAway(error)) return 'away';
  if (codeOf(error) === DISK_FULL) return 'full';
  if (error instanceof CheckConstraintViolationException || codeOf(error)?.startsWith('22') === true)
    return 'value-refused';
  return undefined;
}

/** PostgreSQL, appendix A: disk_full. */
const DISK_FULL = '53100';

/** Connections that were refused, lost, or never answered; and statements that the database gave up. */
const AWAY =
  /^(?:ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|EHOSTUNREACH|ENOTFOUND|EAI_AGAIN|08\w{3}|57P0\d|57014|53300|55P03|3D000|55000)$/;
const AWAY_WORDS =
  /^(?:Connection terminated|Query read timeout|timeout exceeded when trying to connect|Knex: Timeout acquiring a connection|Client has encountered a connection error|Transaction query already complete)/;

function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  if (AWAY.test(codeOf(error) ?? '')) return true;
  // The driver gives these no code.
  const [, words = error.message] =
    / - (Connection terminated.*|Query read timeout.*|timeout exceeded.*|Client has encountered.*)$/s.exec(
      error.message,
    ) ?? [];
  return AWAY_WORDS.test(words);
}

function codeOf(error: unknown): string | undefined {
  return error instanceof Error && 'code' in error && typeof error.code === 'string' ? error.code : undefined;
}
