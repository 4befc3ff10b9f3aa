import { hostOf } from '../../facts/index.js';
import { say } from '../../texts/say.js';
import { VISIT_TEXTS as T } from '../../texts/visit.js';
import type { SeenRequest } from '../../visit/index.js';
import { isOf } from '../attribution.js';
import { rungsOf } from '../kinds.js';
import { providerSays } from './provider-says.js';
import { isHarmless, isWell, requestCause, requestLine } from './request-causes.js';
import type { Cause, RungCase, RungFound } from './types.js';

const REPORTS: readonly SeenRequest['kind'][] = ['image', 'fetch', 'beacon', 'socket', 'other'];

/** Requests of a snippet that tell its provider something. */
function reportsOf({
  snippet,
  load,
  attribution,
}: Pick<RungCase, 'snippet' | 'load' | 'attribution'>): readonly SeenRequest[] {
  return load.requests.filter(
    (request) => REPORTS.includes(request.kind) && isOf(attribution.ofRequest(request), snippet),
  );
}

/** Its beacon went out and was answered. */
export function judgeReported(rung: RungCase): RungFound {
  const reports = reportsOf(rung);
  // A beacon that is sent on leaving is answered when nobody listens any more.
  const answered = reports.filter(
    (request) => isWell(request) && (request.status !== undefined || request.kind === 'beacon'),
  );
  if (answered.length > 0) {
    const hosts = [
      ...new Set(answered.map(({ url }) => hostOf(url) ?? new URL(rung.load.finalUrl).hostname)),
    ];
    const isCounted = answered.some(({ standIn }) => standIn !== true);
    return { state: 'reached', message: say(isCounted ? T.reportedTo : T.reportedToStandIn, { hosts }) };
  }
  if (!rungsOf(rung.parts).reports) return { state: 'none', message: T.reportsNothing };
  return { state: 'failed', isOwn: true, cause: causeOf(rung, reports) };
}

function causeOf(rung: RungCase, reports: readonly SeenRequest[]): Cause {
  const { load } = rung;
  const site = new URL(load.finalUrl).hostname;
  const bad = reports.find((request) => !isHarmless(request));
  if (bad) {
    const host = hostOf(bad.url) ?? site;
    const { status = 0, failure } = bad;
    if (failure === 'policy')
      return {
        id: 'blocked-by-policy',
        message: say(T.policyFile, { host }),
        advice: say(T.reportPolicyAdvice, { host }),
        who: 'you',
        evidence: [requestLine(bad)],
      };
    if (status >= 400 && status < 500)
      return {
        id: 'report-refused',
        message: say(T.reportFailed, { host, status }),
        advice: say(T.reportFailedAdvice, { site }),
        who: 'provider',
        evidence: [requestLine(bad)],
      };
    return requestCause(bad, load);
  }
  const said = providerSays(rung);
  if (said) return said;
  return {
    id: 'nothing-reported',
    message: T.nothingReported,
    advice: T.nothingReportedAdvice,
    who: 'unknown',
    evidence: [],
  };
}
