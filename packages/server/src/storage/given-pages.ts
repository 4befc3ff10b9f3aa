import { emOf } from './em.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

/** A page that somebody handed over, as a server would have answered. */
export interface GivenPage {
  readonly path: string;
  readonly status: number;
  /** Names in lower case. */
  readonly headers: Readonly<Record<string, string>>;
  readonly digest: string;
  readonly body: Uint8Array;
}

/** Adds pages to a set of them; one of the same path is replaced. */
export async function addGivenPages(
  store: Store,
  site: Pick<Site, 'id'>,
  set: string,
  pages: readonly GivenPage[],
): Promise<void> {
  if (pages.length === 0) return;
  await emOf(store).execute(
    `insert into given_page (site_id, set, path, status, headers, digest, body)
     values ${pages.map(() => '(?, ?, ?, ?, ?::jsonb, ?, ?)').join(', ')}
     on conflict (site_id, set, path) do update set status = excluded.status, headers = excluded.headers,
       digest = excluded.digest, body = excluded.body, given_at = now()`,
    pages.flatMap(({ path, status, headers, digest, body }) => [
      ...[site.id, set, path, status, JSON.stringify(headers), digest],
      Buffer.from(body),
    ]),
  );
}

/** Paths of a set, in their order. @param most - no more than so many */
export async function givenPaths(
  store: Store,
  site: Pick<Site, 'id'>,
  set: string,
  most: number,
): Promise<string[]> {
  const rows = await emOf(store).execute<{ path: string }[]>(
    'select path from given_page where site_id = ? and set = ? order by path limit ?',
    [site.id, set, most],
  );
  return rows.map(({ path }) => path);
}

/** @returns without its body where that has the digest that is known already */
export async function givenPage(
  store: Store,
  site: Pick<Site, 'id'>,
  set: string,
  path: string,
  known: string | undefined,
): Promise<(Omit<GivenPage, 'body'> & { readonly body: Uint8Array | null }) | undefined> {
  const [row] = await emOf(store).execute<(Omit<GivenPage, 'body'> & { body: Uint8Array | null })[]>(
    `select path, status, headers, digest, case when digest = ? then null else body end as body
     from given_page where site_id = ? and set = ? and path = ?`,
    [known ?? '', site.id, set, path],
  );
  return row;
}

/** Removes the pages of a set. */
export async function removeGivenPages(store: Store, site: Pick<Site, 'id'>, set: string): Promise<void> {
  await emOf(store).execute('delete from given_page where site_id = ? and set = ?', [site.id, set]);
}

/** Removes what was handed over a while ago and no survey that is under way reads. */
export async function sweepGivenPages(store: Store, olderMs: number): Promise<void> {
  await emOf(store).execute(
    `delete from given_page g where g.given_at < now() - ? * interval '1 millisecond' and not exists (
       select 1 from survey s where s.site_id = g.site_id and s.state in ('waiting', 'running')
         and s.options->>'given' = g.set::text)`,
    [olderMs],
  );
}
