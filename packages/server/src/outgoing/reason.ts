/** Why a request failed: the innermost reason, as what is wrapped around it names only what was being done. */
export function reasonOf(error: unknown): string {
  let reason = String(error);
  for (let cause = error; cause instanceof Error; cause = cause.cause) reason = cause.message || reason;
  return reason;
}
