import type { EndpointResponse, Endpoints } from '@pragmatica/contract';
import { hostsOf } from '../../storage/hosts.js';
import { standingsOfHost } from '../../storage/standings.js';
import type { Store } from '../../storage/store.js';
import { chooseHost } from '../choose-host.js';
import { findSite } from '../site-lock.js';

type WatchHistory = EndpointResponse<Endpoints['showWatchHistory']>;

type Cell = WatchHistory['snippets'][number]['cells'][number];

/** Rounds that are shown beside each other. */
const SHOWN = 40;

/** How the snippets of a host stood after its last rounds. @throws ServiceError 404 */
export async function showWatchHistory(
  store: Store,
  key: string,
  named: string | undefined,
): Promise<WatchHistory> {
  const site = await findSite(store, key);
  const { host } = chooseHost(await hostsOf(store, site), key, 'live', named);
  const rounds = new Map<number, WatchHistory['rounds'][number]>();
  const snippets = new Map<string, { readonly name: string; readonly cells: Cell[] }>();
  for (const row of await standingsOfHost(store, site, host, SHOWN)) {
    const { round, release, at, snippet, name, state, losses, message } = row;
    rounds.set(round, { number: round, at: at.toISOString(), release });
    const cells = snippets.get(snippet)?.cells ?? [];
    cells.push({ round, state, lostAt: losses[0]?.at ?? null, message });
    // As it is called now.
    snippets.set(snippet, { name, cells });
  }
  return {
    host,
    rounds: [...rounds.values()],
    snippets: [...snippets].map(([snippet, line]) => ({ snippet, ...line })),
  };
}
