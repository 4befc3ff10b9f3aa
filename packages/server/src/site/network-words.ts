import { SITE_TEXTS } from '../texts/site.js';

/** Why nobody answers, as far as the network tells, in words. */
export function whyNobodyAnswers(problem: unknown): string {
  const cause = problem instanceof Error && problem.cause instanceof Error ? problem.cause : problem;
  const code = cause instanceof Error && 'code' in cause ? String(cause.code) : '';
  if (code === 'ENOTFOUND' || code === 'EAI_AGAIN') return SITE_TEXTS.noSuchName;
  if (code === 'ECONNREFUSED') return SITE_TEXTS.nobodyListens;
  if (/CERT|TLS|SSL/.test(code)) return SITE_TEXTS.badCertificate;
  if (cause instanceof Error && cause.name === 'TimeoutError') return SITE_TEXTS.noAnswerInTime;
  return cause instanceof Error ? cause.message : String(cause);
}
