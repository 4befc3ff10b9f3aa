import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { pipeline, type Readable } from 'node:stream';
import { localhostLookup } from '@pragmatica/contract/node';
import type { PreparedParts } from '@pragmatica/core';
import type { Logger } from 'pino';
import { Agent, request as fetchFrom, type Dispatcher } from 'undici';
import type { Metrics } from '../metrics.js';
import { KNOWN_CODINGS, endToEndHeaders, insertedTag, originHeaders, type HeaderMap } from './headers.js';
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
    const release = served.release && releaseTag(served.release.digest);
    const headers = originHeaders(
      request.headers,
      { host: request.headers.host ?? host, clientAddress: request.socket.remoteAddress ?? '' },
      release,
    );
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
  const { log, metrics } = options;
  const headers = endToEndHeaders(answer.headers);
  const insertion = planInsertion(options, served, request, answer.statusCode, headers);
  const finish = (error: Error | null | undefined): void => {
    if (error && !response.destroyed) response.destroy();
  };
  if (insertion === undefined) {
    metrics.pages.inc({ outcome: 'untouched' });
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
  const inserting = createPageStream(
    insertion.parts,
    {
      encoding: insertion.encoding,
      onFailure(error) {
        log.error(
          { err: error, host: served.host, url: request.url },
          'insertion failed; the page goes out as the origin sent it',
        );
        metrics.pages.inc({ outcome: 'failed-open' });
      },
      onEnd(outcomes) {
        metrics.pages.inc({ outcome: 'inserted' });
        for (const outcome of outcomes)
          if (!outcome.inserted) metrics.leftOut.inc({ reason: outcome.reason });
      },
    },
    options.createInserter ?? createInserter,
  );
  const codings = codingStreams(coding);
  const stages: (Readable | NodeJS.ReadWriteStream | ServerResponse)[] = codings
    ? [answer.body, codings[0], inserting, codings[1], response]
    : [answer.body, inserting, response];
  pipeline(stages as never, finish);
}

interface Insertion {
  readonly parts: PreparedParts;
  readonly encoding: string | undefined;
}

/** What goes into this answer; undefined when it is to pass untouched. Whatever fails here leaves the page untouched. */
function planInsertion(
  options: GatewayOptions,
  served: ServedHost,
  request: IncomingMessage,
  status: number,
  headers: HeaderMap,
): Insertion | undefined {
  try {
    if (!served.release || !isInsertable(status, headers)) return undefined;
    const parts = served.release.planner.prepare(targetOf(request));
    if (parts.count === 0) return undefined;
    return {
      parts,
      encoding: /charset\s*=\s*"?([^\s;"]+)/i.exec(firstOf(headers['content-type']) ?? '')?.[1],
    };
  } catch (error) {
    options.log.error(
      { err: error, host: served.host, url: request.url },
      'planning failed; the page goes out as the origin sent it',
    );
    options.metrics.pages.inc({ outcome: 'failed-open' });
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

/** Path and query of the target, in origin form or absolute form (RFC 9112, 3.2). */
function targetOf(request: IncomingMessage): string {
  const target = request.url!;
  if (target.startsWith('/') || !URL.canParse(target)) return target;
  const { pathname, search } = new URL(target);
  return pathname + search;
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
