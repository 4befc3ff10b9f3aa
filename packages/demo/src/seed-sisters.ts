import type { ApiClient } from '@pragmatica/contract';
import { apply, tickAll } from './seed-recipes.js';
import { SISTER_SITES, type SisterSite } from './sister-sites.js';
import { UNWATCHED, setWatch, type SeedOptions } from './seed-options.js';

/** The small sites around the ferries: one in order, one with changes not live, one with a mistake, one not published. */
export async function seedSisters(client: ApiClient, options: SeedOptions): Promise<void> {
  for (const site of SISTER_SITES) await seedSister(client, site, options);
}

async function seedSister(
  client: ApiClient,
  { key, name, host, account }: SisterSite,
  { gatewayPort, sitePort }: SeedOptions,
): Promise<void> {
  const origin = `http://origin.skerrywick.localhost:${sitePort}`;
  await client.call('createSite', {
    body: {
      key,
      name,
      timeZone: 'Europe/Dublin',
      hosts: [{ host, environment: 'live', origin, address: `http://${host}:${gatewayPort}` }],
    },
  });
  const params = { site: key };
  await setWatch(client, params.site, UNWATCHED);
  await apply(client, 'tallymast-counter', {
    name: 'Visit counter',
    site: key,
    values: key === 'quay-kitchen' ? [] : [{ name: 'counter_account', value: account }],
  });
  await tickAll(client, key, [
    'freight.skerrywick.localhost is not registered with Tallymast',
    'quay-kitchen.localhost is not registered with Tallymast',
  ]);
  if (key === 'quay-kitchen') return;
  const { etag } = await client.call('showDraft', { params });
  await client.call('publish', { params, ifMatch: etag, body: { message: 'The counter' } });
  if (key === 'skerrywick-freight')
    await apply(client, 'easewheel-menu', { name: 'Accessibility menu', site: key, values: [] });
  if (key === 'tern-hostel')
    await client.call('createSnippet', {
      params,
      body: {
        name: 'Bed alarm',
        provider: 'Nudgelet',
        parts: [{ placement: 'body-end', code: '<script>window.beds = { free: 3;</script>' }],
      },
    });
}
