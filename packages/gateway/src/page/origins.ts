import { readFileSync } from 'node:fs';
import { localhostLookup } from '@pragmatica/contract/node';
import type { Logger } from 'pino';
import { Pool, buildConnector, type Dispatcher } from 'undici';

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
const CONNECTIONS_PER_ORIGIN = 128;
const EJECT_MS = 10_000;
const HEALTH_INTERVAL_MS = 5_000;
const HEALTH_TIMEOUT_MS = 2_000;

interface Origin {
  readonly url: string;
  readonly pool: Pool;
  /** No requests before this time, unless all are out. */
  outUntil: number;
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
  inTurn(urls: readonly string[]): readonly string[] {
    if (urls.length === 1) return urls;
    const now = Date.now();
    const first = this.#turn++ % urls.length;
    const turned = [...urls.slice(first), ...urls.slice(0, first)];
    const isOut = (url: string): boolean => (this.#origins.get(url)?.outUntil ?? 0) > now;
    return [...turned.filter((url) => !isOut(url)), ...turned.filter(isOut)];
  }

  dispatch(url: string, options: Dispatcher.DispatchOptions, handler: Dispatcher.DispatchHandler): void {
    this.#origin(url).pool.dispatch(options, handler);
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
    });
    const origin = { url, pool, outUntil: 0 };
    this.#origins.set(url, origin);
    return origin;
  }

  #eject(origin: Origin, why: string): void {
    if (origin.outUntil <= Date.now())
      this.#log.warn({ origin: origin.url }, `the origin ${why}; others go first`);
    origin.outUntil = Date.now() + (this.#options.ejectMs ?? EJECT_MS);
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
          else origin.outUntil = 0;
        } catch {
          this.#eject(origin, 'does not answer its health check');
        }
      }),
    );
  }
}
