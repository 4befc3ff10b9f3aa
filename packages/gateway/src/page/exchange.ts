import type { IncomingMessage, ServerResponse } from 'node:http';
import {
  hasTagOf,
  variantEtag,
  PageInserter,
  CachedPlacesInserter,
  charsetOf,
  recordPlaces,
  type InsertOutcome,
  type Outcome,
  type PlannedPage,
  type PreparedParts,
} from '@pragmatica/core';
import type { Logger } from 'pino';
import type { Dispatcher } from 'undici';
import type { Metrics } from '../metrics.js';
import { ANSWERS } from '../texts/answers.js';
import { answer } from './answer.js';
import { AnswerWriter, type AnswerHead } from './answer-writer.js';
import { BodyRecording } from './body-recording.js';
import type { Breaker } from './breaker.js';
import type { ClientFacts, ClientReader } from './client.js';
import { CachedPageSink } from './cached-page-sink.js';
import { createCoding, type CodingFactory } from './codings.js';
import type { CompressedCache, CompressedKey } from './compressed-cache.js';
import { appended, endToEndHeaders, firstOf, rewriteOriginUrls, type HeaderMap } from './headers.js';
import { MalformedAnswer, type Origins } from './origins.js';
import { isPackable, preferredCoding, type PackingCoding } from './packing.js';
import { addVary, setReachHeaders } from './reach-headers.js';
import { insertedHeaders, isInsertable } from './page-answer.js';
import {
  CodedPageSink,
  PlainPageSink,
  type InserterFactory,
  type Output,
  type PageSink,
} from './page-sinks.js';
import type { PagePolicy, PolicedAnswer } from '../policy/page-policy.js';
import type { ServedRelease, ServedHost } from '../releases/release-table.js';
import { MAX_CACHED_PAGE, type PageKey, type PlaceCache } from './place-cache.js';
import type { PageRequest } from './requests.js';

export const createInserter: InserterFactory = (parts, encoding) => new PageInserter(parts, { encoding });

/** What all exchanges of a gateway share. */
export interface GatewayContext {
  readonly log: Logger;
  readonly metrics: Metrics;
  readonly origins: Origins;
  readonly breaker: Breaker;
  readonly placeCache: PlaceCache;
  /** Answers that went out compressed. */
  readonly compressed: CompressedCache;
  /** Whether answers are packed for clients that take it. */
  readonly compress: boolean;
  readonly pseudonym: string;
  readonly readClient: ClientReader;
  /** Whether answers say their release in `Server-Timing`. */
  readonly serverTiming: boolean;
  readonly createInserter?: InserterFactory;
  readonly createCoding?: CodingFactory;
}

/** What a page load gets, decided once, when it is asked for. */
export interface PlannedLoad {
  readonly release: ServedRelease;
  readonly page: PlannedPage;
  readonly outcome: Outcome;
  /** Milliseconds since 1970. */
  readonly now: number;
  readonly policy?: PagePolicy | undefined;
}

/** A body longer than the gateway takes. */
export class BodyTooLong extends Error {
  override name = 'BodyTooLong';
}

const MAY_TRY_AGAIN = new Set(['GET', 'HEAD', 'OPTIONS']);

/** One request on its way to an origin, and the answer on its way back. */
export class Exchange implements Dispatcher.DispatchHandler {
  readonly #context: GatewayContext;
  readonly #planned: PlannedLoad | undefined;
  readonly #client: ClientFacts;
  readonly #pageRequest: PageRequest;
  readonly #request: IncomingMessage;
  readonly #response: ServerResponse;
  readonly #options: Dispatcher.DispatchOptions;
  #origins: readonly string[];
  #attempt = 0;
  #controller: Dispatcher.DispatchController | undefined;
  readonly #writer: AnswerWriter;
  /** The origin has sent all. */
  #hasOriginEnded = false;
  /** The head as it goes out if nothing is put in. */
  #originHead: AnswerHead | undefined;
  #sink: PageSink | undefined;
  /** Undefined where nothing may be kept, or where it would be of something that failed. */
  #recording: BodyRecording | undefined;
  /** The answer holds a nonce. */
  #isOneTime = false;
  #trailers: HeaderMap | undefined;
  /** Gives back the place among those that wait. */
  #leave: (() => void) | undefined;

  constructor(
    context: GatewayContext,
    served: ServedHost,
    pageRequest: PageRequest,
    planned: PlannedLoad | undefined,
    client: ClientFacts,
    request: IncomingMessage,
    response: ServerResponse,
    options: Dispatcher.DispatchOptions,
  ) {
    this.#context = context;
    this.#planned = planned;
    this.#client = client;
    this.#pageRequest = pageRequest;
    this.#request = request;
    this.#response = response;
    this.#options = options;
    this.#origins = context.origins.roundRobin(served.origins);
    this.#writer = new AnswerWriter(response, {
      log: context.log,
      isHead: request.method === 'HEAD',
      pause: () => this.#controller?.pause(),
      resume: () => this.#controller?.resume(),
    });
    response.on('close', () => {
      this.#leave?.();
      if (response.writableFinished) return;
      this.#sink?.destroy();
      this.#controller?.abort(new Error('the client went away'));
    });
  }

  /** Sends the request to the next origin. */
  start(): void {
    const { origins, metrics } = this.#context;
    this.#leave = origins.admit(this.#origin, this.#pageRequest.target);
    if (this.#leave) {
      origins.dispatch(this.#origin, this.#options, this);
      return;
    }
    metrics.refusals.inc({ reason: 'stalled' });
    this.#response.setHeader('retry-after', '10');
    answer(this.#response, 503, ANSWERS.stalled, { host: this.#pageRequest.host });
  }

  get #origin(): string {
    return this.#origins[Math.min(this.#attempt, this.#origins.length - 1)]!;
  }

  onRequestStart(controller: Dispatcher.DispatchController): void {
    this.#controller = controller;
    if (this.#response.destroyed) controller.abort(new Error('the client went away'));
  }

  onResponseStart(
    controller: Dispatcher.DispatchController,
    status: number,
    received: Record<string, string | string[] | undefined>,
  ): void {
    this.#controller = controller;
    // The strict parser joins what is said twice into one number, and would wait for that many bytes.
    if (Array.isArray(received['content-length'])) {
      controller.abort(new MalformedAnswer('Content-Length is there twice'));
      return;
    }
    if (status >= 200) this.#leave?.();
    if (status < 200) {
      this.#inform(status, received);
      return;
    }
    const headers = endToEndHeaders(received);
    rewriteOriginUrls(headers, this.#origin, this.#pageRequest.authority, this.#client.protocol);
    headers['via'] = appended(received['via'], `1.1 ${this.#context.pseudonym}`);
    if (status === 304) this.#keepTag(headers);
    this.#originHead = { status, headers };
    const { serverTiming } = this.#context;
    const coding = this.#choosePacking(status, headers);
    const planned = this.#partsFor(status, headers);
    const policed = this.#policed(status, headers, planned);
    const { parts } = policed;
    this.#isOneTime = policed.isOneTime;
    this.#sink = (coding && this.#cachedSink(coding, headers, parts)) ?? this.#insertingSink(parts, headers);
    const sent = !parts
      ? policed.headers
      : this.#sink
        ? insertedHeaders(policed.headers, this.#planned!, serverTiming)
        : headers;
    // Nothing is held longer than it takes to pack it: a slow visitor may take minutes to read it.
    const onPacked = (packed: Buffer | undefined): void => {
      if (packed) this.#recording?.finish(packed);
      this.#recording = undefined;
    };
    const packing = coding && { coding, onPacked };
    this.#writer.begin({ status, headers: sent }, packing);
    if (!this.#sink) this.#writer.flushSoon();
    if (this.#request.method !== 'HEAD') return;
    this.#sink?.destroy();
    this.#sink = undefined;
  }

  onResponseData(_controller: Dispatcher.DispatchController, chunk: Buffer): void {
    this.#recording?.add(chunk);
    if (this.#sink) this.#sink.write(chunk);
    else this.#writer.give([chunk]);
  }

  onResponseEnd(
    _controller: Dispatcher.DispatchController,
    trailers: Record<string, string | string[] | undefined>,
  ): void {
    this.#hasOriginEnded = true;
    if (Object.keys(trailers).length > 0) this.#trailers = endToEndHeaders(trailers);
    this.#endBody();
  }

  #endBody(): void {
    if (this.#sink) this.#sink.end();
    else this.#writer.end(this.#trailers);
  }

  onResponseError(_controller: Dispatcher.DispatchController, error: Error): void {
    if (this.#response.destroyed) return;
    this.#leave?.();
    this.#sink?.destroy();
    this.#sink = undefined;
    if (this.#response.headersSent) {
      this.#writer.breakOff();
      return;
    }
    // Nothing of what came has gone out: it counts for nothing, and another answer begins anew.
    this.#writer.reset();
    this.#originHead = this.#trailers = this.#recording = undefined;
    this.#hasOriginEnded = false;
    this.#failed(error);
  }

  #failed(error: Error): void {
    const { log, metrics, origins } = this.#context;
    const { host } = this.#pageRequest;
    if (error instanceof BodyTooLong) {
      metrics.refusals.inc({ reason: 'body' });
      answer(this.#response, 413, ANSWERS.tooLong);
      return;
    }
    const mayAskAgain = MAY_TRY_AGAIN.has(this.#request.method!) && this.#options.body == null;
    if (origins.isMalformed(this.#origin, error) && mayAskAgain) {
      this.start();
      return;
    }
    origins.failed(this.#origin);
    const attempts = Math.max(this.#origins.length, 2);
    if (mayAskAgain && ++this.#attempt < attempts) {
      this.start();
      return;
    }
    const { address } = this.#client;
    log.warn({ err: error, host, url: this.#request.url, client: address }, 'the origin does not answer');
    metrics.refusals.inc({ reason: 'origin' });
    answer(this.#response, 502, ANSWERS.unreachable, { host });
  }

  /** Interim answers (RFC 9110, 15.2); 100 was answered by the gateway itself. */
  #inform(status: number, headers: Record<string, string | string[] | undefined>): void {
    if (this.#request.httpVersionMinor === 0 || this.#response.headersSent) return;
    if (status === 102) this.#response.writeProcessing();
    if (status === 103 && headers['link'] !== undefined)
      this.#response.writeEarlyHints({ link: headers['link'] });
  }

  /** "Not modified" speaks of what the client has (RFC 9110, 15.4.5): a page with these parts keeps its tag. */
  #keepTag(headers: HeaderMap): void {
    const tag = firstOf(headers['etag']);
    const planned = this.#planned;
    const condition = this.#request.headers['if-none-match'];
    if (planned?.page.isInReach !== true) return;
    const isInserted = planned.outcome.tag !== '' && hasTagOf(condition, planned.outcome.tag);
    if (isInserted && tag !== undefined) headers['etag'] = variantEtag(tag, planned.outcome.tag);
    if (isInserted) planned.policy?.applyToUnchanged(headers, planned.outcome.parts, this.#pageOrigin);
    // Only of a page that was delivered with parts, or asked for as a page, is it known that it is one.
    if (isInserted || firstOf(this.#request.headers.accept)?.includes('text/html') === true)
      setReachHeaders(headers, planned.page, planned.now);
  }

  /** What is to be put into this answer; undefined when it is to pass untouched, as it is whenever this fails. */
  #partsFor(status: number, headers: HeaderMap): PreparedParts | undefined {
    const { metrics, breaker } = this.#context;
    try {
      const planned = isInsertable(status, headers) ? this.#planned : undefined;
      if (planned?.page.isInReach === true) setReachHeaders(headers, planned.page, planned.now);
      const parts = planned?.outcome.parts;
      if (parts === undefined || parts.count === 0) {
        metrics.pages.inc({ outcome: 'untouched' });
        return undefined;
      }
      if (breaker.allows(this.#page)) return parts;
      metrics.pages.inc({ outcome: 'switched-off' });
    } catch (error) {
      this.#insertionFailed(error);
    }
    return undefined;
  }

  /** The page with its content policy; without ours, where that fails. */
  #policed(status: number, headers: HeaderMap, parts: PreparedParts | undefined): PolicedAnswer {
    const policy = this.#planned?.policy;
    try {
      if (policy && isInsertable(status, headers)) return policy.apply(headers, parts, this.#pageOrigin);
    } catch (error) {
      this.#context.log.error({ err: error, host: this.#pageRequest.host }, 'a content policy failed');
    }
    return { headers, parts, isOneTime: false };
  }

  /** Scheme and host of the page, as visitors see it. */
  get #pageOrigin(): string {
    return `${this.#client.protocol}://${this.#pageRequest.authority}`;
  }

  #insertingSink(parts: PreparedParts | undefined, headers: HeaderMap): PageSink | undefined {
    if (!parts) return undefined;
    try {
      return this.#makeSink(parts, headers);
    } catch (error) {
      this.#insertionFailed(error);
      return undefined;
    }
  }

  /** Compares what comes with what went out last; where there is nothing to compare with, keeps it for the next. */
  #cachedSink(
    coding: PackingCoding,
    headers: HeaderMap,
    parts: PreparedParts | undefined,
  ): PageSink | undefined {
    const key = this.#isOneTime ? undefined : this.#compressedKey(coding, headers);
    if (!key) return undefined;
    const { compressed } = this.#context;
    if (compressed.mayKeep(key)) this.#recording = new BodyRecording(compressed, key, parts);
    const known = compressed.find(key, parts);
    if (!known) return undefined;
    return new CachedPageSink(known, {
      same: () => {
        compressed.hit(key);
        this.#recording = undefined;
        if (parts) this.#inserted(known.outcomes);
        this.#writer.endPacked(known.sent, this.#trailers);
      },
      another: (received, isSlow) => {
        if (isSlow) this.#writer.holdNoMore();
        this.#sink = this.#insertingSink(parts, headers);
        if (parts && !this.#sink) this.#writer.begin(this.#originHead!, undefined);
        for (const chunk of received)
          if (this.#sink) this.#sink.write(chunk);
          else this.#writer.give([chunk]);
        if (this.#hasOriginEnded) this.#endBody();
      },
    });
  }

  #makeSink(parts: PreparedParts, headers: HeaderMap): PageSink {
    const { placeCache } = this.#context;
    const charset = charsetOf(firstOf(headers['content-type']));
    const coding = firstOf(headers['content-encoding']) ?? 'identity';
    const make = this.#context.createInserter ?? createInserter;
    if (coding !== 'identity') {
      const streams = (this.#context.createCoding ?? createCoding)(coding)!;
      return new CodedPageSink(streams, make(parts, charset), this.#output());
    }
    const key = this.#pageKey(headers, charset);
    if (key === undefined || this.#isOneTime || this.#request.method === 'HEAD')
      return new PlainPageSink(make(parts, charset), this.#output());
    const known = placeCache.find(key, parts);
    if (known?.places.length === Number(headers['content-length']))
      return this.#cachedPlacesSink(key, new CachedPlacesInserter(known.places), known.outcomes);
    const inserter = make(parts, charset);
    const page: Buffer[] = [];
    const sink = new PlainPageSink(
      inserter,
      this.#output(() => {
        const places = recordPlaces(inserter, Buffer.concat(page));
        placeCache.set(key, { places, parts, outcomes: inserter.outcomes });
      }),
    );
    return {
      write: (chunk) => {
        page.push(chunk);
        sink.write(chunk);
      },
      end: () => sink.end(),
      destroy: () => sink.destroy(),
    };
  }

  /** The same bytes as before, so the origin says: parts go where they went. */
  #cachedPlacesSink(
    key: PageKey,
    inserter: CachedPlacesInserter,
    outcomes: readonly InsertOutcome[],
  ): PageSink {
    return {
      write: (chunk) => this.#writer.give(inserter.write(chunk)),
      end: () => {
        this.#writer.give(inserter.end());
        if (inserter.isAnother) {
          this.#context.placeCache.delete(key);
          this.#insertionFailed(new Error('the origin sent another page with the same strong validator'));
        } else this.#inserted(outcomes);
        this.#writer.end(this.#trailers);
      },
      destroy: () => undefined,
    };
  }

  /** Only a strong validator says that bytes are the same (RFC 9110, 8.8.1). */
  #pageKey(headers: HeaderMap, charset: string | undefined): PageKey | undefined {
    const tag = firstOf(headers['etag']);
    const length = Number(firstOf(headers['content-length']));
    if (tag?.startsWith('"') !== true || !(length <= MAX_CACHED_PAGE)) return undefined;
    return {
      host: this.#pageRequest.host,
      target: this.#pageRequest.target,
      tag: `${tag} ${this.#planned!.outcome.tag}`,
      charset,
    };
  }

  get #page(): string {
    return this.#pageRequest.host + this.#pageRequest.target.split(/[?#]/, 1)[0]!;
  }

  #inserted(outcomes: readonly InsertOutcome[]): void {
    const { metrics, breaker } = this.#context;
    breaker.succeeded(this.#page);
    metrics.pages.inc({ outcome: 'inserted' });
    this.#recording?.inserted(outcomes);
    for (const outcome of outcomes) if (!outcome.inserted) metrics.leftOut.inc({ reason: outcome.reason });
  }

  #insertionFailed(error: unknown): void {
    this.#recording = undefined;
    const { log, metrics, breaker } = this.#context;
    const isOff = breaker.failed(this.#page);
    const { host } = this.#pageRequest;
    const about = { err: error, host, url: this.#request.url, client: this.#client.address };
    log.error(about, 'insertion failed; the page goes out as the origin sent it');
    if (isOff) log.error(about, 'insertion is switched off for this page for a minute');
    metrics.pages.inc({ outcome: 'failed-open' });
  }

  #output(onDone?: () => void): Output {
    return {
      write: (pieces) => this.#writer.give(pieces),
      end: () => this.#writer.end(this.#trailers),
      pause: () => this.#controller?.pause(),
      resume: () => this.#controller?.resume(),
      failed: (error) => this.#insertionFailed(error),
      giveBack: (received, error) => this.#giveBack(received, error),
      broken: (error) => {
        this.#insertionFailed(error);
        this.#response.destroy();
      },
      done: (outcomes) => {
        this.#inserted(outcomes);
        onDone?.();
      },
    };
  }

  /** Nothing has gone out: the origin's bytes do, as they came, and what is still to come with them. */
  #giveBack(received: readonly Buffer[], error: unknown): void {
    this.#insertionFailed(error);
    this.#sink = undefined;
    this.#writer.begin(this.#originHead!, undefined);
    this.#writer.give(received);
    if (this.#hasOriginEnded) this.#writer.end(this.#trailers);
    else this.#controller?.resume();
  }

  /** The coding that this answer is packed in; undefined where it goes out as it is. */
  #choosePacking(status: number, headers: HeaderMap): PackingCoding | undefined {
    if (!this.#context.compress || !isPackable(status, headers)) return undefined;
    const accepted = firstOf(this.#request.headers['accept-encoding']);
    const coding = preferredCoding(accepted);
    addVary(headers, 'Accept-Encoding');
    if (coding === undefined || this.#request.method === 'HEAD' || this.#request.httpVersionMinor === 0)
      return undefined;
    return coding;
  }

  /** Undefined where the origin says that nothing may be kept (RFC 9111, 5.2.2.5). */
  #compressedKey(coding: PackingCoding, headers: HeaderMap): CompressedKey | undefined {
    if (/\bno-store\b/i.test([headers['cache-control'] ?? ''].flat().join())) return undefined;
    const { host, target } = this.#pageRequest;
    const tag = this.#planned?.outcome.tag ?? '';
    return { host, target, coding, tag, charset: charsetOf(firstOf(headers['content-type'])) };
  }
}
