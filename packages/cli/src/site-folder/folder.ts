import { fieldErrors, snapshot as snapshotSchema } from '@pragmatica/contract';
import { orderLists, type Snapshot } from '@pragmatica/core';
import { parse, stringify } from 'yaml';
import { CliError } from '../errors.js';
import { FOLDER } from '../texts/folder.js';
import { say } from '../texts/say.js';
import { placementText, readPlacement } from './placement-text.js';
import { readSnippet, writeSnippet } from './snippet-file.js';

export const SITE_FILE = 'site.yaml';
const FORMAT = 'pragmatica-folder/1';
const SNIPPET_FILE = /^snippets\/([^/]+)\.html$/;

/** Whether a file of a folder is one that a set is written to. */
export function isOfSet(path: string): boolean {
  return path === SITE_FILE || SNIPPET_FILE.test(path);
}

/** A set as files, by path: one for the site, one for each snippet. The same set is the same files, byte for byte. */
export function writeFolder(snapshot: Snapshot): ReadonlyMap<string, string> {
  const { key, name, timeZone, pageGroups, consent, fields } = snapshot.site;
  const parts = new Map(snapshot.snippets.map((snippet) => [snippet.key, snippet.parts.length]));
  const order = orderLists(snapshot).map(({ placement, parts: keys }) => [
    placementText(placement),
    keys.map((part) => shortName(part, parts)),
  ]);
  const site = {
    ...{ format: FORMAT, site: key, name, timeZone },
    ...(pageGroups ? { pageGroups } : {}),
    ...(consent ? { consent } : {}),
    ...(fields ? { fields } : {}),
    order: Object.fromEntries(order) as unknown,
  };
  return new Map([
    [SITE_FILE, stringify(site, { lineWidth: 120 })],
    ...[...snapshot.snippets]
      .sort((a, b) => (a.key < b.key ? -1 : 1))
      .map((snippet) => [`snippets/${snippet.key}.html`, writeSnippet(snippet)] as const),
  ]);
}

/** Most snippets have one part, and its number says nothing. */
function shortName(part: string, counts: ReadonlyMap<string, number>): string {
  const [snippet] = part.split('/');
  return counts.get(snippet!) === 1 ? snippet! : part;
}

/** The set that files hold. @param files - by path, with slashes @throws CliError that names file and field */
export function readFolder(files: ReadonlyMap<string, string>): Snapshot {
  const text = files.get(SITE_FILE);
  if (text === undefined) throw new CliError(FOLDER.noSite);
  const { format, site, order, ...home } = readSite(text);
  if (format !== FORMAT) throw new CliError(say(FOLDER.otherFormat, { format: FORMAT }));
  const paths = [...files.keys()].filter((path) => SNIPPET_FILE.test(path)).sort();
  const snippets = paths.map((path) => readSnippet(SNIPPET_FILE.exec(path)![1]!, files.get(path)!, path));
  const ranks = ranksOf(order);
  const value = {
    format: 'pragmatica-set/1',
    site: { key: site, ...home },
    snippets: snippets.map((snippet) => {
      const parts = snippet['parts'] as readonly Record<string, unknown>[];
      return {
        ...snippet,
        parts: parts.map((part, index) => ({
          ...part,
          rank: ranks(part['placement'], String(snippet['key']), index, parts.length),
        })),
      };
    }),
  };
  const parsed = snapshotSchema.safeParse(value);
  if (parsed.success) return parsed.data;
  const [first, ...more] = fieldErrors(parsed.error, snapshotSchema);
  const [, index, rest] = /^\/snippets\/(\d+)(\/.*)?$/.exec(first!.pointer) ?? [];
  const file = index === undefined ? SITE_FILE : paths[Number(index)]!;
  throw new CliError(
    say(FOLDER.wrongField, {
      ...{ file, field: (index === undefined ? first!.pointer : rest) || '/', detail: first!.detail },
      more: more.length,
    }),
  );
}

function readSite(text: string): Readonly<Record<string, unknown>> {
  let site: unknown;
  try {
    site = parse(text);
  } catch (error) {
    const [problem] = (error as Error).message.split('\n');
    throw new CliError(say(FOLDER.badFront, { file: SITE_FILE, problem: problem! }));
  }
  if (typeof site !== 'object' || site === null || Array.isArray(site))
    throw new CliError(say(FOLDER.otherFormat, { format: FORMAT }));
  return site as Readonly<Record<string, unknown>>;
}

/** Places by the lists in the site's file; what is in none of them goes last, in the order of the files. */
function ranksOf(
  order: unknown,
): (placement: unknown, snippet: string, index: number, parts: number) => number {
  const lists = new Map<string, Map<string, number>>();
  const next = new Map<string, number>();
  for (const [name, keys] of Object.entries((order ?? {}) as Record<string, unknown>)) {
    if (!readPlacement(name)) throw new CliError(say(FOLDER.badPlacement, { file: SITE_FILE, at: name }));
    const list = Array.isArray(keys) ? keys.map(String) : [];
    lists.set(name, new Map(list.map((key, rank) => [key, rank])));
    next.set(name, list.length);
  }
  return (placement, snippet, index, parts) => {
    const name = placementText(placement as Parameters<typeof placementText>[0]);
    const list = lists.get(name);
    const rank = list?.get(`${snippet}/${index + 1}`) ?? (parts === 1 ? list?.get(snippet) : undefined);
    if (rank !== undefined) return rank;
    const last = next.get(name) ?? 0;
    next.set(name, last + 1);
    return last;
  };
}
