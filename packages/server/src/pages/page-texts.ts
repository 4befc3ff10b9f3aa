import { originsOf } from '@pragmatica/contract';
import { decodePage, type PageText } from '@pragmatica/core';
import { readBounded } from '../outgoing/read-bounded.js';
import type { SiteClient } from '../outgoing/site-client.js';
import type { Host } from '../storage/rows.js';

const MAX_BYTES = 2 * 1024 * 1024;
const HTML = /^(?:text\/html|application\/xhtml\+xml)/i;

/**
 * Pages of a host as they come, of its origin where it has one, otherwise as visitors get them; those that do not answer are
 * left out.
 *
 * @param timeoutMs - for all of them together: what has not come by then is not waited for
 */
export async function fetchPageTexts(
  client: SiteClient,
  host: Host,
  paths: readonly string[],
  access: Readonly<Record<string, string>>,
  timeoutMs: number,
): Promise<readonly PageText[]> {
  const signal = AbortSignal.timeout(timeoutMs);
  const [origin] = originsOf(host.origin);
  const base = origin ?? host.address ?? `http://${host.host}`;
  const headers: Readonly<Record<string, string>> = {
    ...(origin === undefined ? {} : { 'x-forwarded-host': host.host }),
    ...access,
  };
  const fetched = await Promise.all(
    paths.map(async (path): Promise<PageText | undefined> => {
      try {
        const response = await client.get(base, path, { headers, signal });
        const type = response.headers.get('content-type') ?? '';
        const bytes = response.ok && HTML.test(type) ? await readBounded(response, MAX_BYTES) : undefined;
        return bytes && { path, html: decodePage(bytes, type).text };
      } catch {
        return undefined;
      }
    }),
  );
  return fetched.filter((page) => page !== undefined);
}
