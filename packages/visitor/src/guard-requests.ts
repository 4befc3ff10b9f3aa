import { answerTo, type ThirdParties, type ThirdPartyRules } from '@pragmatica/core';
import type { CDPSession } from 'playwright-core';
import type { VisitOrder } from './order.js';
import type { Protocol } from './protocol.js';
import { requestKind } from './request-kind.js';
import { askedMethod, standInAnswer } from './stand-in.js';
import { transferSize } from './transfer-size.js';

/** A page that is larger is left as it is. */
const MAX_REWRITTEN = 16 << 20;

/** What a stand-in can answer: the kinds of requests that reports are. */
const REPORTING: readonly Protocol.Network.ResourceType[] = ['Image', 'Ping', 'XHR', 'Fetch', 'Other'];

/** Is told of requests what the browser does not know. */
export interface GuardNews {
  /** What a page that was rewritten would take over the line, for the browser counts what it was handed. */
  size(request: string, bytes: number): void;
  /** A stand-in has answered it. */
  standIn(request: string): void;
}

/**
 * Keeps a visit where it may be: only the site's own hosts are opened as pages, third parties are asked or not as the order
 * says, what lets us into a host goes to that host alone. Only what must be looked at is held up, for everything that is
 * costs time.
 */
export async function guardRequests(
  session: CDPSession,
  mainFrame: string,
  order: VisitOrder,
  news: GuardNews,
): Promise<void> {
  const { address, ownOrigins, thirdParties, rewrite, rewriteAlso = [] } = order;
  const own = new Set([new URL(address).origin, ...ownOrigins]);
  const { cookie: _, ...headers } = order.access ?? {};
  const needsHeaders = Object.keys(headers).length > 0;
  const patterns: Protocol.Fetch.RequestPattern[] = [{ urlPattern: '*', resourceType: 'Document' }];
  patterns.push(...othersToStop(thirdParties));
  if (needsHeaders) patterns.push({ urlPattern: `${new URL(address).origin}/*` });
  if (rewrite) patterns.push({ urlPattern: '*', resourceType: 'Document', requestStage: 'Response' });
  for (const urlPattern of rewrite ? rewriteAlso : [])
    patterns.push({ urlPattern, requestStage: 'Response' });

  const pass = async (event: Protocol.Fetch.RequestPausedEvent): Promise<void> => {
    const { requestId, request, resourceType, frameId } = event;
    const url = new URL(request.url);
    const isOwn = own.has(url.origin);
    if (event.responseStatusCode !== undefined || event.responseErrorReason !== undefined) {
      await passAnswer(event, isOwn);
      return;
    }
    const isPage = resourceType === 'Document' && frameId === mainFrame;
    const answer = isOwn ? 'real' : answerFor(event);
    if ((isPage && !isOwn) || answer === 'blocked') {
      await session.send('Fetch.failRequest', { requestId, errorReason: 'BlockedByClient' });
      return;
    }
    if (answer === 'stand-ins') {
      if (event.networkId !== undefined) news.standIn(event.networkId);
      await session.send(
        'Fetch.fulfillRequest',
        standInAnswer(requestId, request, requestKind(resourceType)),
      );
      return;
    }
    const isEntrusted = needsHeaders && url.origin === new URL(address).origin;
    await session.send('Fetch.continueRequest', {
      requestId,
      ...(isEntrusted
        ? {
            headers: Object.entries({ ...request.headers, ...headers }).map(([name, value]) => ({
              name,
              value,
            })),
          }
        : {}),
    });
  };

  /** A request for leave to send something is answered by whoever is to get it. */
  const answerFor = ({ request, resourceType }: Protocol.Fetch.RequestPausedEvent): ThirdParties => {
    const asked = askedMethod(request);
    const type = Object.entries(request.headers).find(([name]) => name.toLowerCase() === 'content-type');
    return answerTo(
      {
        url: request.url,
        method: asked ?? request.method,
        kind: asked === undefined ? requestKind(resourceType) : 'fetch',
        // What needs leave is no plain text.
        contentType: asked === undefined ? type?.[1] : '*/*',
      },
      thirdParties,
    );
  };

  const cookiesFor = async (url: string): Promise<string> => {
    const { cookies } = await session.send('Network.getCookies', { urls: [url] });
    return cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
  };

  const passAnswer = async (event: Protocol.Fetch.RequestPausedEvent, isOwn: boolean): Promise<void> => {
    const {
      requestId,
      responseHeaders = [],
      responseStatusCode = 200,
      frameId,
      resourceType,
      request,
    } = event;
    const isPage = resourceType === 'Document' && frameId === mainFrame;
    const header = (name: string): string | undefined =>
      responseHeaders.find((one) => one.name.toLowerCase() === name)?.value;
    const isMine = isPage
      ? isOwn && responseStatusCode === 200
      : rewriteAlso.length > 0 && resourceType !== 'Document';
    if (rewrite && isMine && Number(header('content-length') ?? 0) < MAX_REWRITTEN) {
      const { body, base64Encoded } = await session.send('Fetch.getResponseBody', { requestId });
      const bytes = Buffer.from(body, base64Encoded ? 'base64' : 'utf8');
      const contentType = header('content-type') ?? '';
      const headers = Object.fromEntries(
        responseHeaders.map(({ name, value }) => [name.toLowerCase(), value]),
      );
      const made = await rewrite({
        url: request.url,
        isPage,
        contentType,
        headers,
        body: bytes,
        cookies: await cookiesFor(request.url),
      });
      if (made !== undefined) {
        const kept = responseHeaders.filter(
          ({ name }) =>
            !/^(?:content-length|content-encoding|transfer-encoding|content-type|etag)$/i.test(name),
        );
        const instead = Buffer.from(made);
        if (event.networkId !== undefined)
          news.size(event.networkId, await transferSize(instead, responseHeaders));
        await session.send('Fetch.fulfillRequest', {
          requestId,
          responseCode: responseStatusCode,
          responseHeaders: [...kept, { name: 'Content-Type', value: withUtf8(contentType) }],
          body: instead.toString('base64'),
        });
        return;
      }
    }
    await session.send('Fetch.continueRequest', { requestId });
  };

  session.on('Fetch.requestPaused', (event) => {
    // A page that is gone does not wait for an answer.
    pass(event).catch(() =>
      session.send('Fetch.continueRequest', { requestId: event.requestId }).catch(() => undefined),
    );
  });
  await session.send('Fetch.enable', { patterns });
}

/** Which requests to other hosts have to be looked at. */
function othersToStop({ usual, hosts }: ThirdPartyRules): readonly Protocol.Fetch.RequestPattern[] {
  const of = (answer: ThirdParties, urlPattern: string): readonly Protocol.Fetch.RequestPattern[] => {
    if (answer === 'blocked') return [{ urlPattern }];
    if (answer === 'real') return [];
    return REPORTING.map((resourceType) => ({ urlPattern, resourceType }));
  };
  return [...of(usual, '*'), ...hosts.flatMap(({ host, answer }) => of(answer, `*://*${host}*`))];
}

function withUtf8(contentType: string): string {
  const [type = ''] = contentType.split(';', 1);
  return `${type.trim() || 'text/html'}; charset=utf-8`;
}
