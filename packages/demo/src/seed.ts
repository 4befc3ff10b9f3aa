import { ApiError, createClient, type ApiClient, type HoursResource } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { SEED_REACH, seedDraftSnippet, seedSnippets } from './seed-data.js';
import { seedSisters } from './seed-sisters.js';

export interface SeedOptions {
  readonly server: string;
  readonly token: string;
  readonly gatewayPort: number;
  readonly sitePort: number;
  readonly providerPort: number;
  /** When the chat is on; tests must not depend on the hour. */
  readonly chatHours?: HoursResource;
  /** Also the small sites around the ferries. */
  readonly hasSisters?: boolean;
}

const SITE = 'skerrywick';

/** Fills an empty service with the demo, through the API like any other client. Returns false if it is there already. */
export async function seed(options: SeedOptions): Promise<boolean> {
  const { gatewayPort, sitePort, providerPort } = options;
  const client = createClient({ server: options.server, token: options.token, fetch: localhostFetch });
  if (await hasSite(client)) return false;
  const origin = `http://origin.skerrywick.localhost:${sitePort}`;
  const host = (name: string, environment: 'live' | 'staging') => ({
    host: name,
    environment,
    origin,
    address: `http://${name}:${gatewayPort}`,
  });
  await client.call('createSite', {
    body: {
      key: SITE,
      name: 'Skerrywick Ferries',
      timeZone: 'Europe/Dublin',
      ...SEED_REACH,
      hosts: [host('skerrywick.localhost', 'live'), host('staging.skerrywick.localhost', 'staging')],
    },
  });
  const params = { site: SITE };
  for (const body of seedSnippets(providerPort, options.chatHours))
    await client.call('createSnippet', { params, body });
  const draft = await client.call('showDraft', { params });
  await client.call('publish', {
    params,
    ifMatch: draft.etag,
    body: { message: 'What was pasted all over the old site, in one place' },
  });
  await client.call('createSnippet', { params, body: seedDraftSnippet(providerPort) });
  const offer = await client.call('showSnippet', { params: { ...params, snippet: 'summer-offer' } });
  await client.call('editSnippet', {
    params: { ...params, snippet: 'summer-offer' },
    ifMatch: offer.etag,
    body: { pages: { include: ['/', '/fares', '/timetables/*'] } },
  });
  if (options.hasSisters === true) await seedSisters(client, options);
  return true;
}

async function hasSite(client: ApiClient): Promise<boolean> {
  try {
    await client.call('showSite', { params: { site: SITE } });
    return true;
  } catch (error) {
    if (error instanceof ApiError && error.status === 404) return false;
    throw error;
  }
}
