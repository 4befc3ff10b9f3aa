import { RATE_LIMITS, type Limits, type RateLimitName } from '@pragmatica/contract';
import type { Request, Response } from 'express';
import { rateLimit } from 'express-rate-limit';
import { ServiceError } from '../errors.js';
import type { Store } from '../storage/store.js';
import { admit, type Admitted } from './admit.js';

const WINDOW_MS = 60_000;

/** Counts a call. @param key - whose it is @throws ServiceError 429 */
type CountCall = (request: Request, response: Response, key: string) => Promise<void>;

/**
 * Counts calls by the minute, and says in each answer how many are left: `RateLimit` and `RateLimit-Policy`
 * (draft-ietf-httpapi-ratelimit-headers). Every process counts for itself.
 */
export class CallCounter {
  readonly #counters: Readonly<Record<RateLimitName, CountCall>>;
  /** A call may be admitted more than once on its way; it is one call. */
  readonly #counted = new WeakSet<Request>();

  constructor(limits: Limits) {
    const names = Object.keys(RATE_LIMITS) as RateLimitName[];
    this.#counters = Object.fromEntries(names.map((name) => [name, counter(name, limits[name])])) as Record<
      RateLimitName,
      CountCall
    >;
  }

  /**
   * Lets in whoever may make a call, and counts it: of the installation, and of the member or the address.
   *
   * @throws ServiceError 401, 403, 404, 429
   */
  async admit(
    store: Store,
    endpoint: Parameters<typeof admit>[1],
    request: Request,
    response: Response,
  ): Promise<Admitted> {
    if (this.#counted.has(request)) return admit(store, endpoint, request);
    this.#counted.add(request);
    const address = request.ip ?? '';
    await this.#counters['calls-of-installation'](request, response, 'all');
    try {
      const admitted = await admit(store, endpoint, request);
      const { credential } = admitted;
      if (credential) await this.#counters['calls-of-member'](request, response, credential.member.login);
      else await this.#counters['calls-of-stranger'](request, response, address);
      return admitted;
    } catch (error) {
      // Who tries secrets is a stranger.
      if (error instanceof ServiceError && error.code === 'not-signed-in')
        await this.#counters['calls-of-stranger'](request, response, address);
      throw error;
    }
  }
}

function counter(name: RateLimitName, most: number): CountCall {
  const keys = new WeakMap<Request, string>();
  const count = rateLimit({
    windowMs: WINDOW_MS,
    limit: most,
    identifier: name,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    validate: false,
    keyGenerator: (request) => keys.get(request)!,
    handler: (_request, _response, next) => {
      next(new ServiceError('too-many-calls', { most }, { retryAfter: WINDOW_MS / 1_000 }));
    },
  });
  return async (request, response, key) => {
    keys.set(request, key);
    await new Promise<void>((resolve, reject) => {
      void count(request, response, (error?: Error | string) => {
        if (error === undefined) resolve();
        else reject(error instanceof Error ? error : new Error(error));
      });
    });
  };
}
