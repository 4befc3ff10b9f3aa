import type { ApiClient } from '@pragmatica/contract';
import { SISTER_SITES, type SisterSite } from './sister-sites.js';
import type { SeedOptions } from './seed.js';

/** The small sites around the ferries: one in order, one with changes not live, one with a mistake, one not published. */
export async function seedSisters(client: ApiClient, options: SeedOptions): Promise<void> {
  for (const site of SISTER_SITES) await seedSister(client, site, options);
}

async function seedSister(
  client: ApiClient,
  { key, name, host, account }: SisterSite,
  { gatewayPort, sitePort, providerPort }: SeedOptions,
): Promise<void> {
  const origin = `http://origin.skerrywick.localhost:${sitePort}`;
  await client.call('createSite', {
    body: {
      key,
      name,
      timeZone: 'Europe/Dublin',
      fields: [
        {
          name: 'counter_account',
          type: 'id',
          label: 'Account at Tallymast',
          example: 'TM-0000',
          ...(key === 'quay-kitchen' ? {} : { value: account }),
        },
      ],
      hosts: [{ host, environment: 'live', origin, address: `http://${host}:${gatewayPort}` }],
    },
  });
  const params = { site: key };
  const add = (snippet: string, provider: string, placement: 'head-end' | 'body-end', code: string) =>
    client.call('createSnippet', {
      params,
      body: { name: snippet, provider, parts: [{ placement, code }] },
    });
  const at = (provider: string, file: string): string =>
    `http://${provider}.localhost:${providerPort}/${file}`;
  await add(
    'Visit counter',
    'Tallymast',
    'head-end',
    `<script async src="${at('tallymast', 'count.js')}" data-account="@{counter_account}"></script>`,
  );
  if (key === 'quay-kitchen') return;
  const { etag } = await client.call('showDraft', { params });
  await client.call('publish', { params, ifMatch: etag, body: { message: 'The counter' } });
  if (key === 'skerrywick-freight')
    await add(
      'Accessibility menu',
      'Easewheel',
      'body-end',
      `<script async src="${at('easewheel', 'ease.js')}"></script>`,
    );
  if (key === 'tern-hostel')
    await add('Bed alarm', 'Nudgelet', 'body-end', '<script>window.beds = { free: 3;</script>');
}
