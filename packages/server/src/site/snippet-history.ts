import type { EntityManager } from '@mikro-orm/postgresql';
import type { SnippetVersion } from '@pragmatica/contract';
import { difference, type Snapshot, type SnapshotSnippet } from '@pragmatica/core';
import type { Site } from '../storage/entities/index.js';
import { emptySnapshot } from './sets.js';

interface Row {
  readonly number: number;
  readonly message: string;
  readonly author: string;
  readonly created_at: Date | string;
  readonly snippet: SnapshotSnippet | null;
}

/** The releases that changed a snippet, the newest first. Only the snippet itself is taken out of each release. */
export async function snippetHistory(em: EntityManager, site: Site, key: string): Promise<SnippetVersion[]> {
  const rows = await em.execute<Row[]>(
    `select number, message, author, created_at,
       jsonb_path_query_first(snapshot, '$.snippets[*] \\? (@.key == $key)', jsonb_build_object('key', ?::text)) as snippet
     from release where site_id = ? order by number`,
    [key, site.id],
  );
  const versions: SnippetVersion[] = [];
  let before: SnapshotSnippet | null = null;
  for (const { number, message, author, created_at: createdAt, snippet } of rows) {
    const changes = difference(only(site, before), only(site, snippet)).map((change) => change.message);
    if (changes.length > 0)
      versions.push({
        release: number,
        message,
        author,
        createdAt: new Date(createdAt).toISOString(),
        changes,
        snippet: snippet && toData(snippet),
      });
    before = snippet;
  }
  return versions.reverse();
}

function only(site: Site, snippet: SnapshotSnippet | null): Snapshot {
  return { ...emptySnapshot(site), snippets: snippet ? [snippet] : [] };
}

type VersionSnippet = NonNullable<SnippetVersion['snippet']>;

function toData({ pages, parts, needs, limits, ...rest }: SnapshotSnippet): VersionSnippet {
  return {
    ...rest,
    ...(limits ? { limits: limits } : {}),
    pages: { include: [...pages.include], exclude: [...pages.exclude] },
    parts: parts.map((part) => ({ ...part })),
    ...(needs ? { needs: [...needs] } : {}),
  };
}
