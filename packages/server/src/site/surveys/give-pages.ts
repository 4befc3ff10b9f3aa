import { createHash } from 'node:crypto';
import type { GivenPagesInput } from '@pragmatica/contract';
import { addGivenPages } from '../../storage/given-pages.js';
import { findSite } from '../site-lock.js';
import type { Acting } from '../use-case.js';

/** Headers that tell something about a page; those about how it was sent do not hold for what is handed over. */
const TELLING = new Set([
  'content-type',
  'content-security-policy',
  'content-security-policy-report-only',
  'permissions-policy',
  'cross-origin-embedder-policy',
  'content-language',
  'location',
  'refresh',
]);

/**
 * Keeps pages that somebody hands over until a survey has read them.
 *
 * @throws ServiceError 404
 */
export async function givePages(
  key: string,
  set: string,
  { pages }: GivenPagesInput,
  { store }: Pick<Acting, 'store'>,
): Promise<void> {
  const site = await findSite(store, key);
  const byPath = new Map(pages.map((page) => [page.path, page]));
  await addGivenPages(
    store,
    site,
    set,
    [...byPath.values()].map(({ path, status = 200, headers = {}, body }) => {
      const bytes = Buffer.from(body, 'base64');
      const named = Object.entries(headers).map(([name, value]) => [name.toLowerCase(), value] as const);
      const told = Object.fromEntries(named.filter(([name]) => TELLING.has(name)));
      return {
        ...{ path, status },
        headers: { 'content-type': 'text/html', ...told },
        digest: createHash('sha256').update(bytes).update(JSON.stringify(told)).digest('hex').slice(0, 32),
        body: bytes,
      };
    }),
  );
}
