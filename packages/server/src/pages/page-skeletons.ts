import { originsOf } from '@pragmatica/contract';
import { distinctSkeletons, type PageSkeleton } from '@pragmatica/core';
import type { SiteClient } from '../outgoing/site-client.js';
import type { Readers } from '../reading/readers.js';
import type { Host } from '../storage/rows.js';
import { fetchPageTexts } from './page-texts.js';

/** Pages of one folder are mostly made alike: a few of each, and not many in all. */
const MAX_PAGES = 16;
/** For all of them together: what has not come by then is not waited for. */
const TIMEOUT_MS = 3_000;

/** What it takes to visit a site and to read what it answers. */
export interface Visiting {
  readonly readers: Readers;
  readonly client: SiteClient;
}

/** What a site's pages are made of, asked of its origin; those that do not answer are left out. */
export async function fetchSkeletons(
  host: Host,
  paths: readonly string[],
  { readers, client }: Visiting,
  access: Readonly<Record<string, string>> = {},
): Promise<PageSkeleton[]> {
  if (originsOf(host.origin).length === 0) return [];
  const pages = await fetchPageTexts(client, host, sample(paths), access, TIMEOUT_MS);
  // A page that cannot be read is one that nothing is known of.
  const read = await Promise.all(pages.map((page) => readers.run('skeleton', page).catch(() => undefined)));
  return distinctSkeletons(read.filter((skeleton) => skeleton !== undefined));
}

/** Pages from every folder in turn, the front page first. */
export function sample(paths: readonly string[]): string[] {
  const folders = new Map<string, string[]>();
  for (const path of paths) {
    const folder = path.slice(0, path.lastIndexOf('/') + 1);
    folders.set(folder, [...(folders.get(folder) ?? []), path]);
  }
  const taken: string[] = [];
  for (let round = 0; taken.length < MAX_PAGES; round++) {
    const some = [...folders.values()].flatMap((folder) => folder.slice(round, round + 1));
    if (some.length === 0) break;
    taken.push(...some);
  }
  return taken.slice(0, MAX_PAGES);
}
