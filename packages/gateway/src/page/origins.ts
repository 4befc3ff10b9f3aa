import { readFileSync } from 'node:fs';
import { isLocalHost, localhostLookup } from '@pragmatica/contract/node';
import type { Logger } from 'pino';
import { Pool, buildConnector, type Dispatcher } from 'undici';
import type { HeaderMap } from './headers.js';
import { askLeniently } from './lenient-origin.js';
import { Waiting } from './waiting.js';

export interface OriginOptions {
  /** File of certificates to trust besides those of the system, for origins with https. */
  readonly caFile?: string | undefined;
  /** Path that is asked now and then; an origin that answers it with an error gets no requests. */
  readonly healthPath?: string | undefined;
  readonly connectTimeoutMs?: number;
  readonly headersTimeoutMs?: number;
  readonly bodyTimeoutMs?: number;
  readonly ejectMs?: number;
  readonly healthIntervalMs?: number;
}

const CONNECT_TIMEOUT_MS = 5_000;
const ANSWER_TIMEOUT_MS = 60_000;
const CONNECTIONS_PER_ORIGIN = 1_024;
/** Response heads up to this pass; most servers send a few hundred bytes. */
const MAX_RESPONSE_HEAD_LENGTH = 64 << 10;
/** Requests that wait for an answer to begin: of one address, of one folder, of one origin. */
const MAX_WAITING = {
  address: { slow: 32, most: 512 },
  folder: { slow: 128, most: 768 },
  origin: 1_024,
} as const;
const EJECT_MS = 10_000;
const LENIENT_MS = 10 * 60_000;
const HEALTH_INTERVAL_MS = 5_000;
const HEALTH_TIMEOUT_MS = 2_000;

interface Origin {
  readonly url: string;
  readonly pool: Pool;
  readonly waiting: Waiting;
  /** Stands on this machine or in its network: what comes from there need not be packed. */
  readonly isNear: boolean;
  /** Its answers are no strict HTTP; until then it is asked in the lenient way. */
  lenientUntil: number;
  /** No requests before this time, unless all are out. */
  ejectedUntil: number;
}

/** An answer that no strict reader may take as it is. */
export class MalformedAnswer extends Error {
  override name = 'MalformedAnswer';
}

/** The origins' connections. A host may have several origins, which take turns; one that fails is left out for a while. */
export class Origins {
  readonly #origins = new Map<string, Origin>();
  readonly #options: OriginOptions;
  readonly #log: Logger;
  readonly #ca: string | undefined;
  readonly #timer: NodeJS.Timeout | undefined;
  #turn = 0;

  constructor(options: OriginOptions, log: Logger) {
    this.#options = options;
    this.#log = log;
    this.#ca = options.caFile === undefined ? undefined : readFileSync(options.caFile, 'utf8');
    if (options.healthPath === undefined) return;
    this.#timer = setInterval(() => void this.#checkHealth(), options.healthIntervalMs ?? HEALTH_INTERVAL_MS);
    this.#timer.unref();
  }

  /** The origins of a host to try, the one whose turn it is first, those that are out last. */
  roundRobin(urls: readonly string[]): readonly string[] {
    if (urls.length === 1) return urls;
    const now = performance.now();
    const first = this.#turn++ % urls.length;
    const turned = [...urls.slice(first), ...urls.slice(0, first)];
    const isOut = (url: string): boolean => (this.#origins.get(url)?.ejectedUntil ?? 0) > now;
    return [...turned.filter((url) => !isOut(url)), ...turned.filter(isOut)];
  }

  /**
   * A place among those that wait for an origin's answer; given back when it begins, or when nobody waits any more.
   * What never answers may so hold up itself, and no more.
   *
   * @returns undefined where too many wait already
   */
  admit(url: string, target: string): (() => void) | undefined {
    return this.#origin(url).waiting.enter(target);
  }

  get ca(): string | undefined {
    return this.#ca;
  }

  /** Whether an origin is near enough to send everything unpacked. */
  isNear(url: string): boolean {
    return this.#origin(url).isNear;
  }

  dispatch(url: string, options: Dispatcher.DispatchOptions, handler: Dispatcher.DispatchHandler): void {
    const { pool, lenientUntil } = this.#origin(url);
    if (lenientUntil > performance.now() && options.body == null)
      this.#dispatchLeniently(url, options, handler);
    else pool.dispatch(options, handler);
  }

  /**
   * An answer was no strict HTTP, but perhaps it can be understood.
   *
   * @returns whether it is worth asking again, in the lenient way
   */
  isMalformed(url: string, error: Error): boolean {
    const code = 'code' in error ? error.code : undefined;
    const isStrict = error.name === 'HTTPParserError' || code === 'UND_ERR_RES_CONTENT_LENGTH_MISMATCH';
    if (!isStrict && !(error instanceof MalformedAnswer)) return false;
    const origin = this.#origin(url);
    if (origin.lenientUntil > performance.now()) return false;
    this.#log.warn(
      { err: error, origin: url },
      'the origin’s answers are not strict HTTP; they are repaired',
    );
    origin.lenientUntil = performance.now() + LENIENT_MS;
    return true;
  }

  #dispatchLeniently(
    url: string,
    { method, path, headers }: Dispatcher.DispatchOptions,
    handler: Dispatcher.DispatchHandler,
  ): void {
    const controller = {
      rawHeaders: null,
      rawTrailers: null,
      aborted: false,
      paused: false,
      reason: null as Error | null,
      abort(reason: Error) {
        this.aborted = true;
        this.reason = reason;
        exchange.abort();
      },
      pause() {
        this.paused = true;
        exchange.pause();
      },
      resume() {
        this.paused = false;
        exchange.resume();
      },
    };
    const exchange = askLeniently(
      {
        origin: url,
        method,
        path,
        headers: headers as HeaderMap,
        ca: this.#ca,
        timeoutMs: this.#options.headersTimeoutMs ?? ANSWER_TIMEOUT_MS,
      },
      {
        response: (status, received) => handler.onResponseStart?.(controller, status, received),
        data: (chunk) => {
          handler.onResponseData?.(controller, chunk);
          return !controller.paused;
        },
        end: () => handler.onResponseEnd?.(controller, {}),
        failed: (error) => handler.onResponseError?.(controller, error),
      },
    );
    handler.onRequestStart?.(controller, {});
  }

  /** An origin did not answer. */
  failed(url: string): void {
    this.#eject(this.#origin(url), 'does not answer');
  }

  async close(): Promise<void> {
    clearInterval(this.#timer);
    await Promise.all([...this.#origins.values()].map(({ pool }) => pool.destroy()));
  }

  #origin(url: string): Origin {
    const known = this.#origins.get(url);
    if (known) return known;
    const { hostname } = new URL(url);
    const connector = buildConnector({
      timeout: this.#options.connectTimeoutMs ?? CONNECT_TIMEOUT_MS,
      lookup: localhostLookup,
      ...(this.#ca === undefined ? {} : { ca: this.#ca }),
    });
    const pool = new Pool(url, {
      connections: CONNECTIONS_PER_ORIGIN,
      // The certificate is that of the origin's own name, whatever public host is asked for.
      connect: (options, callback) => connector({ ...options, servername: hostname }, callback),
      headersTimeout: this.#options.headersTimeoutMs ?? ANSWER_TIMEOUT_MS,
      bodyTimeout: this.#options.bodyTimeoutMs ?? ANSWER_TIMEOUT_MS,
      maxHeaderSize: MAX_RESPONSE_HEAD_LENGTH,
    });
    const origin = {
      url,
      pool,
      waiting: new Waiting(MAX_WAITING),
      isNear: isLocalHost(hostname),
      lenientUntil: 0,
      ejectedUntil: 0,
    };
    this.#origins.set(url, origin);
    return origin;
  }

  #eject(origin: Origin, why: string): void {
    if (origin.ejectedUntil <= performance.now())
      this.#log.warn({ origin: origin.url }, `the origin ${why}; others go first`);
    origin.ejectedUntil = performance.now() + (this.#options.ejectMs ?? EJECT_MS);
  }

  async #checkHealth(): Promise<void> {
    await Promise.all(
      [...this.#origins.values()].map(async (origin) => {
        try {
          const { statusCode, body } = await origin.pool.request({
            path: this.#options.healthPath!,
            method: 'GET',
            headersTimeout: HEALTH_TIMEOUT_MS,
            signal: AbortSignal.timeout(HEALTH_TIMEOUT_MS),
          });
          await body.dump();
          if (statusCode >= 400) this.#eject(origin, `answers its health check with ${statusCode}`);
          else origin.ejectedUntil = 0;
        } catch {
          this.#eject(origin, 'does not answer its health check');
        }
      }),
    );
  }
}
