import { createClient, type ImportInput } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { UNWATCHED, setWatch } from '../seed-options.js';
import { tickAll } from '../seed-recipes.js';
import { WAYS_SITE, WAY_HOSTS, type WayPorts } from './hosts.js';

export interface SeedWaysOptions extends WayPorts {
  readonly server: string;
  readonly token: string;
}

/**
 * Adds the site with a host for each way. Its set is what the ferries serve, without what files cannot decide for each visitor:
 * hours, devices and consent, and without what is for staging only.
 *
 * @returns whether it was not there yet
 */
export async function seedWays(options: SeedWaysOptions): Promise<boolean> {
  const { server, token } = options;
  const client = createClient({ server, token, fetch: localhostFetch });
  const sites = await client.call('listSites', { query: { limit: 200 } });
  if (sites.data.items.some(({ key }) => key === WAYS_SITE)) return false;
  const origin = `http://origin.skerrywick.localhost:${options.sitePort}`;
  await client.call('createSite', {
    body: {
      key: WAYS_SITE,
      name: 'Skerrywick, every way',
      timeZone: 'Europe/Dublin',
      hosts: WAY_HOSTS.map(({ host, delivery, port }) => {
        const address = `http://${host}:${options[port]}`;
        return {
          ...{ host, environment: 'live' as const, delivery, address, transfer: 'auto' as const },
          origin: delivery === 'gateway' ? origin : address,
        };
      }),
    },
  });
  const params = { site: WAYS_SITE };
  await setWatch(client, params.site, UNWATCHED);
  const boxes = [
    { kind: 'site-head' as const, name: 'Head code' },
    { kind: 'site-foot' as const, name: 'Footer code' },
    { kind: 'page-content' as const, name: 'Code block' },
  ];
  await client.call('setBoxes', { params, body: { boxes } });
  const served = await client.call('showEnvironment', {
    params: { site: 'skerrywick', environment: 'live' },
  });
  const { data } = await client.call('showRelease', {
    params: { site: 'skerrywick', release: served.data.release! },
  });
  const set: ImportInput['set'] = {
    ...data.snapshot,
    snippets: data.snapshot.snippets
      .filter(({ limits }) => limits?.environment === undefined)
      .map(({ limits: _, recipe: __, ...snippet }) => snippet),
  };
  const draft = await client.call('showDraft', { params });
  const { etag } = await client.call('importSet', { params, ifMatch: draft.etag, body: { set } });
  const message = 'What the ferries serve, on every host in another way';
  await client.call('publish', {
    params,
    ifMatch: etag,
    body: { message, force: 'The demo shows what each way does with it.' },
  });
  await tickAll(client, WAYS_SITE, []);
  return true;
}
