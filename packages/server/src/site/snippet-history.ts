import type { Store } from '../storage/store.js';
import type { SnippetVersion } from '@pragmatica/contract';
import { difference, type Snapshot, type SnapshotSnippet } from '@pragmatica/core';
import type { Site } from '../storage/rows.js';
import { snippetVersions } from '../storage/snippet-versions.js';
import { emptySnapshot } from './sets.js';

/** The releases that changed a snippet, the newest first. */
export async function snippetHistory(store: Store, site: Site, key: string): Promise<SnippetVersion[]> {
  const versions: SnippetVersion[] = [];
  let before: SnapshotSnippet | null = null;
  for (const { snippet, createdAt, ...release } of await snippetVersions(store, site, key)) {
    const changes = difference(only(site, before), only(site, snippet)).map((change) => change.message);
    if (changes.length > 0)
      versions.push({
        ...release,
        createdAt: createdAt.toISOString(),
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
