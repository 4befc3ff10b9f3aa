import type { LookResource } from '@pragmatica/contract';
import { siteAddresses, siteNameOf } from '@pragmatica/core';
import { ServiceError, errorAt } from '../errors.js';
import { readBounded } from '../outgoing/read-bounded.js';
import { LocalAddressError, type SiteClient } from '../outgoing/site-client.js';
import type { Readers } from '../reading/readers.js';
import { USER_AGENT } from '../survey/tools.js';
import { whyNobodyAnswers } from './network-words.js';

const TIMEOUT_MS = 10_000;
const MAX_REDIRECTS = 5;
/** The title stands at the beginning. */
const MAX_BYTES = 512 * 1024;
const ANSWERS_TO_PEOPLE = [401, 403];

/**
 * Looks whether a site answers at what somebody typed, and what it calls itself.
 *
 * @throws ServiceError 422 for what is no address, or where nobody answers
 */
export async function lookAtAddress(
  { client, readers }: { readonly client: SiteClient; readonly readers: Readers },
  typed: string,
): Promise<LookResource> {
  const addresses = siteAddresses(typed);
  if (!addresses) throw errorAt('/address', 'not-an-address', { typed });
  let problem: unknown;
  for (const address of addresses) {
    try {
      return await look(client, readers, new URL(address));
    } catch (error) {
      problem ??= error;
    }
  }
  if (problem instanceof ServiceError) throw problem;
  if (problem instanceof LocalAddressError)
    throw errorAt('/address', 'address-private', { reason: problem.message });
  throw errorAt('/address', 'nobody-answers', {
    address: new URL(addresses[0]!).host,
    reason: whyNobodyAnswers(problem),
  });
}

async function look(client: SiteClient, readers: Readers, asked: URL): Promise<LookResource> {
  let url = asked;
  const response = await client.getElsewhere(asked, {
    headers: { accept: 'text/html', 'user-agent': USER_AGENT },
    signal: AbortSignal.timeout(TIMEOUT_MS),
    redirects: MAX_REDIRECTS,
  });
  if (response.url !== '' && URL.canParse(response.url)) url = new URL(response.url);
  const isPage = response.ok || ANSWERS_TO_PEOPLE.includes(response.status);
  const bytes = isPage ? await readBounded(response, MAX_BYTES, 'cut') : undefined;
  if (!bytes) {
    await response.body?.cancel();
    throw errorAt('/address', 'site-in-trouble', { address: url.host, status: response.status });
  }
  const contentType = response.headers.get('content-type') ?? '';
  const source = { url: url.href, status: response.status, bytes, headers: { 'content-type': contentType } };
  // A page that cannot be read has a name all the same: its host's.
  const title = response.ok ? await readers.run('pageTitle', { source }).catch(() => '') : '';
  return {
    address: url.origin,
    host: url.hostname,
    name: siteNameOf(title, url.hostname),
    title,
    isRedirected: url.hostname !== asked.hostname,
  };
}
