import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { Readable, type Duplex } from 'node:stream';
import { pageAddress, prepareInsertion } from '@pragmatica/core';
import type { Logger } from 'pino';
import type { Dispatcher } from 'undici';
import type { Metrics } from '../metrics.js';
import { ANSWERS } from '../texts/answers.js';
import { answer } from './answer.js';
import { Breaker } from './breaker.js';
import { clientReader } from './client.js';
import type { CodingFactory } from './codings.js';
import { BodyTooLong, Exchange, type PlannedLoad, type GatewayContext } from './exchange.js';
import { originHeaders } from './headers.js';
import { Origins, type OriginOptions } from './origins.js';
import { FragmentServer } from '../fragments/serve-fragments.js';
import { LineServer, type Lines } from '../one-line/serve-line.js';
import { ReportCounter } from '../policy/report-counter.js';
import { takeReports } from '../policy/serve-reports.js';
import { CompressedCache } from './compressed-cache.js';
import type { InserterFactory } from './page-sinks.js';
import type { ReleaseTable, ServedByName, ServedHost } from '../releases/release-table.js';
import { PlaceCache } from './place-cache.js';
import { hasBody, isRefusal, readRequest, type PageRequest, type Refusal } from './requests.js';
import { ignoreUpgrade, isWebSocket, passUpgrade } from './upgrade.js';

export interface GatewayOptions {
  readonly releases: Pick<ReleaseTable, 'find'> & Partial<Lines & ServedByName>;
  readonly log: Logger;
  readonly metrics: Metrics;
  readonly origins?: OriginOptions;
  readonly serverTiming?: boolean;
  /** Proxies before the gateway that are believed: how many, or which. @defaultValue none */
  readonly trustedProxies?: number | readonly string[];
  /** Whether answers are packed for clients that take it. @defaultValue true */
  readonly compress?: boolean;
  /** What the gateway calls itself in `Via`; one that comes back in a request is a loop. @defaultValue pragmatica */
  readonly pseudonym?: string;
  /** Longest body of a request, in bytes. */
  readonly longestBody?: number;
  /** How long a client may take to send the head of a request, and the whole of it. */
  readonly headTimeoutMs?: number;
  readonly requestTimeoutMs?: number;
  /** How long requests may still run when the gateway closes. */
  readonly drainMs?: number;
  /** Where what browsers report of content policies is counted. */
  readonly reports?: ReportCounter;
  readonly createInserter?: InserterFactory;
  readonly createCoding?: CodingFactory;
}

/** So many pages at a time are prepared for; for more, what they need is made when they come. */
const PAGES_AT_A_TIME = 32;
const MAX_HEAD_LENGTH = 64 << 10;
const PSEUDONYM = 'pragmatica';
const HANDSHAKE_MS = 15_000;
const MAX_BODY_LENGTH = 1 << 30;
const HEAD_TIMEOUT_MS = 20_000;
const REQUEST_TIMEOUT_MS = 300_000;
const KEEP_ALIVE_MS = 65_000;
const CHECKED_EVERY_MS = 1_000;
const DRAIN_MS = 10_000;
const IDLE_CHECK_MS = 50;
const METHODS = 'GET, HEAD, POST, PUT, PATCH, DELETE, OPTIONS';

/**
 * The reverse proxy that visitors reach. HTML answers get the page plan's parts on the way through; everything else,
 * and every page for which anything of ours fails, goes out as the origin sent it.
 */
export function createGateway(options: GatewayOptions): { server: Server; close(): Promise<void> } {
  prepareInsertion(PAGES_AT_A_TIME);
  const origins = new Origins(options.origins ?? {}, options.log);
  const context: GatewayContext = {
    ...options,
    origins,
    serverTiming: options.serverTiming ?? true,
    breaker: new Breaker(),
    placeCache: new PlaceCache(),
    compressed: new CompressedCache(),
    compress: options.compress ?? true,
    pseudonym: options.pseudonym ?? PSEUDONYM,
    readClient: clientReader(options.trustedProxies ?? []),
  };
  const lines = new LineServer({ line: (name) => options.releases.line?.(name) }, options.log);
  const fragments = new FragmentServer({ served: (name) => options.releases.served?.(name) }, options.log);
  const reports = options.reports ?? new ReportCounter();
  const answersElsewhere = (request: IncomingMessage, response: ServerResponse, target: string): boolean =>
    lines.answer(request, response, target) ||
    fragments.answer(request, response, target) ||
    takeReports(request, response, target, reports, (host) => options.releases.find(host) !== undefined);
  let isDraining = false;
  const server = createServer(
    {
      maxHeaderSize: MAX_HEAD_LENGTH,
      headersTimeout: options.headTimeoutMs ?? HEAD_TIMEOUT_MS,
      requestTimeout: options.requestTimeoutMs ?? REQUEST_TIMEOUT_MS,
      keepAliveTimeout: KEEP_ALIVE_MS,
      connectionsCheckingInterval: CHECKED_EVERY_MS,
    },
    (request, response) => {
      if (isDraining) response.shouldKeepAlive = false;
      try {
        forward(options, context, answersElsewhere, request, response);
      } catch (error) {
        options.log.error({ err: error, url: request.url }, 'a request failed in the gateway');
        answer(response, 502, ANSWERS.failed);
      }
    },
  );
  server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => {
    if (isWebSocket(request)) upgrade(options, context, request, socket, head);
    else ignoreUpgrade(server, request, socket, head);
  });
  server.on('connect', (_request, socket: Duplex) => {
    socket.end('HTTP/1.1 405 Method Not Allowed\r\nConnection: close\r\nContent-Length: 0\r\n\r\n');
  });
  return {
    server,
    async close() {
      isDraining = true;
      const closed = new Promise<void>((resolve) => server.close(() => resolve()));
      // A connection whose answer ends from now on would wait for another request.
      const idle = setInterval(() => server.closeIdleConnections(), IDLE_CHECK_MS);
      server.closeIdleConnections();
      const late = setTimeout(() => server.closeAllConnections(), options.drainMs ?? DRAIN_MS);
      await closed;
      clearInterval(idle);
      clearTimeout(late);
      await origins.close();
    },
  };
}

function forward(
  options: GatewayOptions,
  context: GatewayContext,
  answersElsewhere: (request: IncomingMessage, response: ServerResponse, target: string) => boolean,
  request: IncomingMessage,
  response: ServerResponse,
): void {
  const pageRequest = readRequest(request);
  const served = isRefusal(pageRequest)
    ? pageRequest
    : (loopOf(context, request, pageRequest) ?? findHost(options, pageRequest));
  if (isRefusal(pageRequest) || 'status' in served) {
    // At a site’s own host everything is the site’s.
    if (!isRefusal(pageRequest) && answersElsewhere(request, response, pageRequest.target)) return;
    const refusal = (isRefusal(pageRequest) ? pageRequest : served) as Refusal;
    context.metrics.refusals.inc({ reason: refusal.reason });
    if (refusal.status === 400) response.shouldKeepAlive = false;
    answer(response, refusal.status, refusal.words, refusal.names);
    return;
  }
  if (answersItself(request, response, pageRequest)) return;
  const longest = options.longestBody ?? MAX_BODY_LENGTH;
  if (Number(request.headers['content-length'] ?? 0) > longest) {
    context.metrics.refusals.inc({ reason: 'body' });
    response.shouldKeepAlive = false;
    answer(response, 413, ANSWERS.tooLong);
    return;
  }
  const planned = planLoad(options, served, pageRequest, request);
  const client = context.readClient(request);
  const headers = originHeaders(request.headers, {
    host: pageRequest.authority,
    client,
    peer: request.socket.remoteAddress ?? '',
    pseudonym: context.pseudonym,
    // Packed once, here, with the parts in it, and not unpacked before.
    codings: comesPlain(context, served) ? 'identity' : undefined,
    partsTag: planned?.outcome.tag ?? '',
    mayInsert: planned?.page.isInReach ?? false,
  });
  if (request.headers['max-forwards'] !== undefined && request.method === 'OPTIONS')
    headers['max-forwards'] = String(Number(request.headers['max-forwards']) - 1);
  new Exchange(context, served, pageRequest, planned, client, request, response, {
    path: pageRequest.target,
    method: request.method as Dispatcher.HttpMethod,
    headers,
    body: bodyOf(request, longest),
  }).start();
}

/** Whether an origin is asked for everything unpacked; only where the gateway packs it again. */
function comesPlain(
  { compress, origins }: GatewayContext,
  { transfer = 'auto', origins: urls }: ServedHost,
): boolean {
  if (!compress || transfer === 'compressed') return false;
  return transfer === 'plain' || urls.every((url) => origins.isNear(url));
}

/** A body of known length passes as it is; one in chunks is counted on its way. */
function bodyOf(request: IncomingMessage, longest: number): Dispatcher.DispatchOptions['body'] {
  if (!hasBody(request)) return null;
  return request.headers['content-length'] !== undefined ? request : Readable.from(counted(request, longest));
}

async function* counted(request: IncomingMessage, longest: number): AsyncGenerator<Buffer> {
  let length = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    length += chunk.length;
    if (length > longest) throw new BodyTooLong();
    yield chunk;
  }
}

/** Requests that are for the gateway (RFC 9110, 9.3.7, 9.3.8 and 7.6.2). */
function answersItself(
  request: IncomingMessage,
  response: ServerResponse,
  pageRequest: PageRequest,
): boolean {
  const isLast = request.headers['max-forwards'] === '0';
  if (request.method === 'TRACE') response.writeHead(405, { allow: METHODS, 'content-length': 0 });
  else if (request.method === 'OPTIONS' && (pageRequest.target === '*' || isLast))
    response.writeHead(204, { allow: METHODS });
  else if (pageRequest.target === '*') response.writeHead(400, { 'content-length': 0 });
  else return false;
  response.end();
  return true;
}

/** A request that the gateway itself has sent before: its origin leads back to it (RFC 9110, 7.6.3). */
function loopOf(
  context: GatewayContext,
  request: IncomingMessage,
  pageRequest: PageRequest,
): Refusal | undefined {
  const via = request.headers.via;
  if (via === undefined) return undefined;
  const isOurs = via.split(',').some((hop) => hop.trim().split(/\s+/)[1] === context.pseudonym);
  if (!isOurs) return undefined;
  return {
    status: 508,
    reason: 'loop',
    words: ANSWERS.loop,
    names: { host: pageRequest.host },
  };
}

function findHost(options: GatewayOptions, pageRequest: PageRequest): ServedHost | Refusal {
  return (
    options.releases.find(pageRequest.host) ?? {
      status: 421,
      reason: 'unknown-host',
      words: ANSWERS.unknownHost,
      names: { host: pageRequest.host },
    }
  );
}

/** What the page load gets; a plan that fails inserts nothing. */
function planLoad(
  options: GatewayOptions,
  { release, policy }: ServedHost,
  { host, target }: PageRequest,
  request: IncomingMessage,
): PlannedLoad | undefined {
  if (!release) return undefined;
  try {
    const now = Date.now();
    const page = release.planner.page(pageAddress(target, host));
    const outcome = page.outcome(request.headers, now);
    // The page with another policy is another representation of it.
    const tag = policy && outcome.tag !== '' ? outcome.tag + policy.tag : outcome.tag;
    return { release, page, outcome: tag === outcome.tag ? outcome : { ...outcome, tag }, now, policy };
  } catch (error) {
    options.log.error(
      { err: error, host, url: target },
      'a page load could not be planned; nothing is put in',
    );
    return undefined;
  }
}

function upgrade(
  options: GatewayOptions,
  context: GatewayContext,
  request: IncomingMessage,
  socket: Duplex,
  head: Buffer,
): void {
  const refuse = (status: string): void => {
    socket.end(`HTTP/1.1 ${status}\r\nConnection: close\r\nContent-Length: 0\r\n\r\n`);
  };
  const pageRequest = readRequest(request);
  if (isRefusal(pageRequest)) {
    refuse('400 Bad Request');
    return;
  }
  const served = findHost(options, pageRequest);
  if ('status' in served) {
    refuse('421 Misdirected Request');
    return;
  }
  if (loopOf(context, request, pageRequest)) {
    refuse('508 Loop Detected');
    return;
  }
  const [origin] = context.origins.roundRobin(served.origins);
  const headers = originHeaders(request.headers, {
    host: pageRequest.authority,
    client: context.readClient(request),
    peer: request.socket.remoteAddress ?? '',
    pseudonym: context.pseudonym,
    partsTag: '',
    mayInsert: false,
  });
  const how = { headers, ca: context.origins.ca, timeoutMs: HANDSHAKE_MS };
  passUpgrade(origin!, pageRequest, request, socket, head, how, (error) => {
    options.log.warn({ err: error, host: pageRequest.host }, 'the origin does not answer an upgrade');
    if (!socket.destroyed) refuse('502 Bad Gateway');
  });
}
