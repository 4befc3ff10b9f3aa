import {
  ApiError,
  createClient,
  type ApiClient,
  type HostResource,
  type RecipeInput,
} from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { demoRecipes } from './recipes.js';
import { installSnippet, tickAll } from './seed-recipes.js';
import { SEED_REACH, seedDraftSnippet, seedSnippets } from './seed-data.js';
import { UNWATCHED, setWatch, type SeedOptions } from './seed-options.js';
import { seedSisters } from './seed-sisters.js';

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
      hosts: [
        host('skerrywick.localhost', 'live'),
        host('staging.skerrywick.localhost', 'staging'),
        ...(options.isWhole === true ? otherWays(sitePort) : []),
      ],
    },
  });
  const params = { site: SITE };
  const isWhole = options.isWhole === true;
  await setWatch(client, params.site, UNWATCHED);
  const [first, later] = partition(demoRecipes(providerPort));
  if (isWhole) await importAll(client, first);
  for (const body of seedSnippets(providerPort, options.chatHours))
    if (!isWhole || !(await installSnippet(client, SITE, body)))
      await client.call('createSnippet', { params, body });
  if (isWhole) await tickAll(client, SITE, ['staging.skerrywick.localhost is not registered with Parlanook']);
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
  if (isWhole) {
    await setWatch(client, params.site, { cron: '0 6 * * *' });
    await seedSisters(client, options);
    // Newer versions come when there are installs of the older ones.
    await importAll(client, later);
  }
  return true;
}

/** The same pages once more for each of the other ways, served by the demo itself without the gateway. */
function otherWays(sitePort: number): HostResource[] {
  return (
    [
      ['line.skerrywick.localhost', 'line'],
      ['async-line.skerrywick.localhost', 'async-line'],
    ] as const
  ).map(([host, delivery]) => {
    const address = `http://${host}:${sitePort}`;
    return { host, environment: 'live', delivery, origin: address, address, transfer: 'auto' };
  });
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

/** First versions, and those that come after. */
function partition(recipes: readonly RecipeInput[]): [RecipeInput[], RecipeInput[]] {
  return [recipes.filter(({ version }) => version === 1), recipes.filter(({ version }) => version > 1)];
}

async function importAll(client: ApiClient, recipes: readonly RecipeInput[]): Promise<void> {
  for (const body of recipes) await client.call('importRecipe', { body });
}
