import { hostOf } from '../../facts/index.js';
import { say } from '../../texts/say.js';
import { VISIT_TEXTS as T } from '../../texts/visit.js';
import type { LoadEvidence, SeenRequest } from '../../visit/index.js';
import type { Cause, Responsible } from './types.js';

/** The directives of a policy by which a kind of request is let in (CSP 3, 6.1). */
const DIRECTIVES: Partial<Record<SeenRequest['kind'], string>> = {
  script: 'script-src',
  style: 'style-src',
  image: 'img-src',
  font: 'font-src',
  media: 'media-src',
  fetch: 'connect-src',
  beacon: 'connect-src',
  socket: 'connect-src',
  document: 'frame-src',
};

const KIND_WORDS: Partial<Record<SeenRequest['kind'], string>> = { script: 'script', style: 'style sheet' };

/** Types that browsers run as scripts (MIME Sniffing, 4.6). */
const SCRIPT_TYPE = /\b(?:java|ecma|j|live)script\b/i;

/** Whether a browser got what it asked for and could use it. */
export function isWell(request: SeenRequest): boolean {
  return request.failure === undefined && (request.status === undefined || request.status < 400);
}

/** Whether somebody took it back, which is nobody's fault. */
export function isHarmless(request: SeenRequest): boolean {
  return request.failure === 'cancelled';
}

/** Why a request failed, and who can do something about it. */
export function requestCause(request: SeenRequest, load: LoadEvidence): Cause {
  const host = hostOf(request.url) ?? new URL(load.finalUrl).hostname;
  const site = new URL(load.finalUrl).hostname;
  const file = fileOf(request.url);
  const isOwnHost = host === site;
  const provider: Responsible = isOwnHost ? 'site' : 'provider';
  const status = request.status ?? 0;
  const cause = (id: string, who: Responsible, message: string, advice: string): Cause => ({
    id,
    who,
    message,
    advice,
    evidence: [requestLine(request)],
  });
  switch (request.failure) {
    case 'policy':
      return cause(
        'blocked-by-policy',
        'you',
        say(T.policyFile, { host }),
        say(T.policyFileAdvice, { host, directive: DIRECTIVES[request.kind] ?? 'default-src' }),
      );
    case 'mixed-content':
      return cause('mixed-content', 'you', say(T.mixedContent, { file }), T.mixedContentAdvice);
    case 'no-host':
      return cause('no-such-host', 'provider', say(T.noHost, { host }), T.noHostAdvice);
    case 'no-answer':
      return cause('no-answer', provider, say(T.noAnswer, { host }), T.noAnswerAdvice);
    case 'certificate':
      return cause('certificate', provider, say(T.certificate, { host }), T.certificateAdvice);
    case 'integrity':
      return cause('changed-file', 'you', say(T.integrity, { file }), T.integrityAdvice);
    case 'unanswered': {
      const seconds = Math.max(1, Math.round((load.endMs - request.startMs) / 1_000));
      return cause('slow', provider, say(T.unanswered, { host, file, seconds }), T.unansweredAdvice);
    }
    case 'forbidden':
      return cause('forbidden', 'unknown', say(T.forbidden, { host }), T.forbiddenAdvice);
    case 'not-shared':
      if (status < 400)
        return cause('not-shared', 'you', say(T.notShared, { host, file }), T.notSharedAdvice);
      break;
    case 'wrong-type':
      // A browser hides errors of other sites behind the type: what was answered is the cause.
      if (status < 400) return wrongType(request, host, file, cause);
      break;
    case undefined:
    case 'cancelled':
    case 'other':
      break;
  }
  if (status >= 500)
    return cause(
      'provider-down',
      provider,
      say(T.providerDown, { host, status, file }),
      T.providerDownAdvice,
    );
  if (status === 429) return cause('too-many', 'provider', say(T.tooMany, { host, file }), T.tooManyAdvice);
  if (status === 401 || status === 403)
    return cause(
      'refused',
      provider,
      say(T.refusedByHost, { host, status, file }),
      say(T.refusedByHostAdvice, { site }),
    );
  if (status === 404 || status === 410)
    return cause(
      'no-such-file',
      isOwnHost ? 'site' : 'you',
      say(T.notFound, { host, status, file }),
      T.notFoundAdvice,
    );
  if (status >= 400)
    return cause('other-status', provider, say(T.otherStatus, { host, status, file }), T.otherStatusAdvice);
  if (request.failure === 'other' && request.kind === 'script' && isWrongType(request))
    return wrongType(request, host, file, cause);
  return cause(
    'not-loaded',
    provider,
    say(T.otherFailure, { host, file, error: request.error ?? '' }),
    T.otherFailureAdvice,
  );
}

function wrongType(
  { kind, type = '', responseHeaders = {} }: SeenRequest,
  host: string,
  file: string,
  cause: (id: string, who: Responsible, message: string, advice: string) => Cause,
): Cause {
  const sent = (responseHeaders['content-type'] ?? type).split(';', 1)[0]!.trim();
  return cause(
    'wrong-type',
    'you',
    say(T.wrongType, {
      host,
      file,
      kind: KIND_WORDS[kind] ?? 'file of its kind',
      type: sent === '' ? 'none' : sent,
    }),
    T.wrongTypeAdvice,
  );
}

function isWrongType({ responseHeaders = {}, type = '' }: SeenRequest): boolean {
  return !SCRIPT_TYPE.test(responseHeaders['content-type'] ?? type);
}

/** "GET https://cdn.example/x.js: 404". */
export function requestLine({ method, url, status, failure, error }: SeenRequest): string {
  const outcome = [
    status === undefined ? '' : String(status),
    failure === undefined ? '' : (error ?? failure),
  ];
  return `${method} ${url}: ${outcome.filter(Boolean).join(', ') || 'no answer'}`;
}

/** The last part of an address: what people call a file. */
export function fileOf(url: string): string {
  if (!URL.canParse(url)) return url;
  const { pathname, hostname } = new URL(url);
  const name = pathname.split('/').filter(Boolean).at(-1);
  return name === undefined ? hostname : name.length > 60 ? `${name.slice(0, 59)}…` : name;
}
