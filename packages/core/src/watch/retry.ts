/**
 * Seconds to wait before each further attempt to deliver a notice, as the Standard Webhooks specification recommends (section
 * "Reliability"): quickly at first, then over about a day.
 */
const RETRY_S = [5, 5 * 60, 30 * 60, 2 * 3600, 5 * 3600, 10 * 3600, 14 * 3600] as const;

/** All attempts together. */
export const MAX_ATTEMPTS = RETRY_S.length + 1;

/** @param attempts - made so far, one or more @returns undefined once it is given up */
export function retryAfterS(attempts: number): number | undefined {
  return RETRY_S[attempts - 1];
}
