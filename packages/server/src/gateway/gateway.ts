import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { pipeline, type Readable, type Transform } from 'node:stream';
import { localhostLookup } from '@pragmatica/contract/node';
import { charsetOf, type InsertOutcome } from '@pragmatica/core';
import type { Logger } from 'pino';
import { Agent, request as fetchFrom, type Dispatcher } from 'undici';
import type { Metrics } from '../metrics.js';
import {
  KNOWN_CODINGS,
  endToEndHeaders,
  hasTagOf,
  insertedTag,
  originHeaders,
  type HeaderMap,
} from './headers.js';
import { codingStreams, createInserter, createPageStream, type InserterFactory } from './page-stream.js';
import { sendOwnPage } from './own-pages.js';
import type { ReleaseTable, ServedHost } from './release-table.js';

export interface GatewayOptions {
  readonly releases: Pick<ReleaseTable, 'find'>;
  readonly log: Logger;
  readonly metrics: Metrics;
  readonly createInserter?: InserterFactory;
}

const ORIGIN_CONNECT_TIMEOUT_MS = 5_000;
const ORIGIN_ANSWER_TIMEOUT_MS = 60_000;
const CONNECTIONS_PER_ORIGIN = 128;

/**
 * The reverse proxy that visitors reach. HTML answers get the page plan's parts on the way through; everything else,
 * and every page for which anything of ours fails, goes out as the origin sent it.
 */
export function createGateway(options: GatewayOptions): { server: Server; close(): Promise<void> } {
  const agent = new Agent({
    connections: CONNECTIONS_PER_ORIGIN,
    connect: { timeout: ORIGIN_CONNECT_TIMEOUT_MS, lookup: localhostLookup },
    headersTimeout: ORIGIN_ANSWER_TIMEOUT_MS,
    bodyTimeout: ORIGIN_ANSWER_TIMEOUT_MS,
  });
  const server = createServer((request, response) => {
    forward(options, agent, request, response).catch((error: unknown) => {
      options.log.error({ err: error, url: request.url }, 'a request failed in the gateway');
      sendOwnPage(
        response,
        502,
        'The page could not be delivered',
        'Something in the answer of the website could not be passed on. Please try again in a moment.',
      );
    });
  });
  return {
    server,
    async close() {
      const closed = new Promise<void>((resolve) => server.close(() => resolve()));
      server.closeIdleConnections();
      await closed;
      await agent.close();
    },
  };
}

async function forward(
  options: GatewayOptions,
  agent: Agent,
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> {
  const { log, metrics, releases } = options;
  const host = hostOf(request);
  const served = releases.find(host);
  if (!served) {
    metrics.refusals.inc({ reason: 'unknown-host' });
    sendOwnPage(
      response,
      421,
      'This address is not set up',
      `No site is set up for the host “${host}”. If it should be, add the host to its site in Pragmatica.`,
    );
    return;
  }
  const abort = new AbortController();
  response.on('close', () => {
    if (!response.writableFinished) abort.abort();
  });
  let answer: Dispatcher.ResponseData;
  try {
    const headers = originHeaders(request.headers, {
      host: request.headers.host ?? host,
      clientAddress: request.socket.remoteAddress ?? '',
      release: served.release && releaseTag(served.release.digest),
      mayInsert: mayInsert(served, request),
    });
    answer = await fetchFrom(served.origin + targetOf(request), {
      dispatcher: agent,
      method: request.method as Dispatcher.HttpMethod,
      headers: { ...headers, host: request.headers.host ?? host },
      body: hasBody(request) ? request : null,
      signal: abort.signal,
    });
  } catch (error) {
    if (abort.signal.aborted) return;
    log.warn({ err: error, host, url: request.url }, 'the origin does not answer');
    metrics.refusals.inc({ reason: 'origin' });
    sendOwnPage(
      response,
      502,
      'The website does not answer',
      `Pragmatica’s gateway is running, but the server of “${host}” does not answer it. Please try again in a moment.`,
    );
    return;
  }
  send(options, served, request, response, answer);
}

function send(
  options: GatewayOptions,
  served: ServedHost,
  request: IncomingMessage,
  response: ServerResponse,
  answer: Dispatcher.ResponseData,
): void {
  const headers = endToEndHeaders(answer.headers);
  const insertion = createInsertion(options, served, request, answer.statusCode, headers);
  const finish = (error: Error | null | undefined): void => {
    if (error && !response.destroyed) response.destroy();
  };
  if (insertion === undefined) {
    if (answer.statusCode === 304) keepTag(headers, served, request);
    response.writeHead(answer.statusCode, headers);
    if (request.method === 'HEAD') answer.body.dump().then(() => response.end(), finish);
    else pipeline(answer.body, response, finish);
    return;
  }
  const coding = firstOf(headers['content-encoding']);
  response.writeHead(answer.statusCode, insertedHeaders(headers, served));
  if (request.method === 'HEAD') {
    answer.body.dump().then(() => response.end(), finish);
    return;
  }
  const codings = codingStreams(coding);
  const stages: (Readable | NodeJS.ReadWriteStream | ServerResponse)[] = codings
    ? [answer.body, codings[0], insertion, codings[1], response]
    : [answer.body, insertion, response];
  pipeline(stages as never, finish);
}

/** Whether any part is planned for the path; a plan that fails inserts nothing. */
function mayInsert(served: ServedHost, request: IncomingMessage): boolean {
  try {
    return (served.release?.planner.prepare(targetOf(request)).count ?? 0) > 0;
  } catch {
    return false;
  }
}

/** "Not modified" speaks of what the client has (RFC 9110, 15.4.5): a page with this release's parts keeps its tag. */
function keepTag(headers: HeaderMap, served: ServedHost, request: IncomingMessage): void {
  const tag = firstOf(headers['etag']);
  const release = served.release && releaseTag(served.release.digest);
  if (tag === undefined || release === undefined || !hasTagOf(request.headers['if-none-match'], release))
    return;
  headers['etag'] = insertedTag(tag, release);
}

/** What puts the parts into this answer; undefined when it is to pass untouched, as it is whenever this fails. */
function createInsertion(
  options: GatewayOptions,
  served: ServedHost,
  request: IncomingMessage,
  status: number,
  headers: HeaderMap,
): Transform | undefined {
  const { log, metrics } = options;
  const about = { host: served.host, url: request.url };
  const onFailure = (error: unknown): void => {
    log.error({ err: error, ...about }, 'insertion failed; the page goes out as the origin sent it');
    metrics.pages.inc({ outcome: 'failed-open' });
  };
  try {
    const parts = isInsertable(status, headers)
      ? served.release?.planner.prepare(targetOf(request))
      : undefined;
    if (parts === undefined || parts.count === 0) {
      metrics.pages.inc({ outcome: 'untouched' });
      return undefined;
    }
    const encoding = charsetOf(firstOf(headers['content-type']));
    const onEnd = (outcomes: readonly InsertOutcome[]): void => {
      metrics.pages.inc({ outcome: 'inserted' });
      for (const outcome of outcomes) if (!outcome.inserted) metrics.leftOut.inc({ reason: outcome.reason });
    };
    return createPageStream(parts, { encoding, onFailure, onEnd }, options.createInserter ?? createInserter);
  } catch (error) {
    onFailure(error);
    return undefined;
  }
}

/** A whole HTML document in a coding that we know, and that may be changed (RFC 9110, 7.7: `no-transform`). */
function isInsertable(status: number, headers: HeaderMap): boolean {
  if (status === 204 || status === 206 || status === 304) return false;
  if (!/^\s*text\/html\s*(;|$)/i.test(firstOf(headers['content-type']) ?? '')) return false;
  const coding = firstOf(headers['content-encoding']) ?? 'identity';
  if (coding !== 'identity' && !KNOWN_CODINGS.has(coding)) return false;
  return !/\bno-transform\b/i.test(firstOf(headers['cache-control']) ?? '');
}

/** The new length is not known before the end; dates, ranges and digests would speak of the origin's bytes. */
const OF_THE_ORIGINS_BYTES: ReadonlySet<string> = new Set([
  'content-length',
  'last-modified',
  'accept-ranges',
  'content-md5',
  'digest',
  'repr-digest',
  'content-digest',
]);

/** The headers of a page that has become another one. */
function insertedHeaders(headers: HeaderMap, served: ServedHost): HeaderMap {
  const { number, digest } = served.release!;
  const kept = Object.entries(headers).filter(([name]) => !OF_THE_ORIGINS_BYTES.has(name));
  const sent: HeaderMap = { ...Object.fromEntries(kept), 'pragmatica-release': String(number) };
  const tag = firstOf(headers['etag']);
  if (tag !== undefined) sent['etag'] = insertedTag(tag, releaseTag(digest));
  return sent;
}

const RELEASE_TAG_LENGTH = 12;

function releaseTag(digest: string): string {
  return digest.slice(0, RELEASE_TAG_LENGTH);
}

/** Path and query of the target, in origin form or absolute form (RFC 9112, 3.2); anything else means the front page. */
function targetOf(request: IncomingMessage): string {
  const target = request.url!;
  if (target.startsWith('/')) return target;
  if (!URL.canParse(target)) return '/';
  const { pathname, search } = new URL(target);
  return pathname.startsWith('/') ? pathname + search : '/';
}

/** The host without port, lower case. */
function hostOf(request: IncomingMessage): string {
  return (request.headers.host ?? '').replace(/:\d+$/, '').replace(/\.$/, '').toLowerCase();
}

function hasBody(request: IncomingMessage): boolean {
  return (
    request.headers['content-length'] !== undefined || request.headers['transfer-encoding'] !== undefined
  );
}

function firstOf(value: string | string[] | undefined): string | undefined {
  return Array.isArray(value) ? value[0] : value;
}
