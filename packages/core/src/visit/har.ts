import { VISIT_TEXTS as T } from '../texts/visit.js';
import type { SeenRequest, VisitEvidence } from './evidence.js';

/** An archive as HTTP Archive 1.2 describes it; what the format does not know begins with an underscore. */
export interface Har extends Readonly<Record<string, unknown>> {
  readonly log: Readonly<Record<string, unknown>> & {
    readonly version: '1.2';
    readonly creator: { readonly name: string; readonly version: string };
    readonly browser: { readonly name: string; readonly version: string };
    readonly pages: readonly object[];
    readonly entries: readonly object[];
  };
}

/**
 * The requests of a visit as an HTTP Archive (HAR 1.2).
 *
 * @param version - of this program
 */
export function toHar(evidence: VisitEvidence, version: string): Har {
  const [name = '', browserVersion = ''] = evidence.browser.split(' ');
  return {
    log: {
      version: '1.2',
      creator: { name: 'Pragmatica', version },
      browser: { name, version: browserVersion },
      pages: evidence.loads.map((load, index) => ({
        startedDateTime: new Date(load.startedAt).toISOString(),
        id: `page_${index + 1}`,
        title: load.finalUrl,
        pageTimings: { onContentLoad: load.readyMs ?? -1, onLoad: load.loadedMs ?? -1 },
      })),
      entries: evidence.loads.flatMap((load, index) =>
        load.requests.map((request) => entryOf(request, load.startedAt, `page_${index + 1}`)),
      ),
    },
  };
}

function entryOf(request: SeenRequest, startedAt: number, pageref: string): object {
  const {
    url,
    method,
    startMs,
    answeredMs,
    endMs = startMs,
    status = 0,
    type = '',
    bytes,
    redirect = '',
  } = request;
  const wait = Math.max(0, (answeredMs ?? endMs) - startMs);
  const receive = Math.max(0, endMs - (answeredMs ?? endMs));
  return {
    pageref,
    startedDateTime: new Date(startedAt + startMs).toISOString(),
    time: wait + receive,
    request: {
      method,
      url,
      httpVersion: '',
      cookies: [],
      headers: headersOf(request.requestHeaders),
      queryString: URL.canParse(url)
        ? [...new URL(url).searchParams].map(([name, value]) => ({ name, value }))
        : [],
      headersSize: -1,
      bodySize: request.body?.length ?? 0,
      ...(request.body === undefined
        ? {}
        : { postData: { mimeType: request.requestHeaders?.['content-type'] ?? '', text: request.body } }),
    },
    response: {
      status,
      statusText: '',
      httpVersion: '',
      cookies: [],
      headers: headersOf(request.responseHeaders),
      content: { size: -1, mimeType: type },
      redirectURL: redirect,
      headersSize: -1,
      bodySize: bytes,
    },
    cache: {},
    timings: { send: 0, wait, receive },
    ...(request.standIn === true ? { comment: T.harStandIn } : {}),
    ...(request.failure === undefined ? {} : { _failure: request.error ?? request.failure }),
  };
}

function headersOf(headers: Readonly<Record<string, string>> = {}): readonly object[] {
  return Object.entries(headers).map(([name, value]) => ({ name, value }));
}
