import type { SnapshotSnippet } from '@pragmatica/core';
import type { Site } from './rows.js';
import { emOf } from './em.js';
import type { Store } from './store.js';

/** A release in which a snippet is another than in the one before. */
export interface StoredVersion {
  readonly release: number;
  readonly message: string;
  readonly author: string;
  readonly createdAt: Date;
  /** Null from the release on in which it is gone. */
  readonly snippet: SnapshotSnippet | null;
}

interface Row extends Omit<StoredVersion, 'createdAt'> {
  readonly createdAt: Date | string;
}

/**
 * How a snippet was from release to release, the oldest first. Of each release only the list of what it holds is looked
 * at, and of what it holds only what is new.
 */
export async function snippetVersions(store: Store, site: Site, key: string): Promise<StoredVersion[]> {
  const em = emOf(store);
  const rows = await em.execute<Row[]>(
    `with version as materialized (select id from release_content where "key" = ?),
     held as (
       select r.id, r.number, found.content
       from release r left join (
         select of.id, v.id as content from release of, unnest(of.snippets) as one (id) join version v using (id)
         where of.site_id = ?
       ) as found on found.id = r.id
       where r.site_id = ?
     ),
     changed as (
       select id, content, lag(content) over (order by number) as before, number from held
     )
     select r.number as release, r.message, r.author, r.created_at as "createdAt", c.body as snippet
     from changed h
     join release r on r.id = h.id
     left join release_content c on c.id = h.content
     where h.content is distinct from h.before
     order by h.number`,
    [key, site.id, site.id],
  );
  return rows.map(({ createdAt, ...row }) => ({ ...row, createdAt: new Date(createdAt) }));
}
