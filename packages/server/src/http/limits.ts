import { RATE_LIMITS, type Endpoint, type Limits, type RateLimitName } from '@pragmatica/contract';
import type { Request, Response } from 'express';
import { rateLimit } from 'express-rate-limit';
import { ServiceError } from '../errors.js';
import { countOf } from '../storage/counts.js';
import type { Member } from '../storage/rows.js';
import type { Store } from '../storage/store.js';

const WINDOW_MS = 60_000;

/** Counts a call. @param key - whose it is @throws ServiceError 429 */
export type CountCall = (request: Request, response: Response, key: string) => Promise<void>;

/**
 * Counts calls by the minute, and says in each answer how many are left: `RateLimit` and `RateLimit-Policy`
 * (draft-ietf-httpapi-ratelimit-headers). Every process counts for itself.
 */
export function createCallCounter(limits: Limits): Readonly<Record<RateLimitName, CountCall>> {
  const names = Object.keys(RATE_LIMITS) as RateLimitName[];
  return Object.fromEntries(names.map((name) => [name, counter(name, limits[name])])) as Record<
    RateLimitName,
    CountCall
  >;
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

/** Holds a call that makes one more of something against how many there may be. @throws ServiceError 409 */
export async function assertRoom(
  store: Store,
  { makes }: Pick<Endpoint, 'makes'>,
  limits: Limits,
  of: { readonly site: string | undefined; readonly member: Pick<Member, 'id'> | undefined },
): Promise<void> {
  // Snippets come in more than one way: storage itself counts them.
  if (makes === undefined || makes === 'snippets') return;
  if ((await countOf(store, makes, of)) >= limits[makes])
    throw new ServiceError('limit-reached', { what: makes, most: limits[makes] });
}
