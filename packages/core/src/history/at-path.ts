import type { Snapshot, SnapshotPart, SnapshotSnippet } from '../snapshot/index.js';

/** Paths of a snippet, as `snippetChange` names them, taken apart. */
type SnippetPath =
  | { readonly of: 'snippet'; readonly name: string }
  | { readonly of: 'limit'; readonly name: string }
  | { readonly of: 'part'; readonly index: number; readonly name: string };

function parsed(path: string): SnippetPath {
  const [first = '', second = '', third = ''] = path.split('/');
  if (first === 'limits') return { of: 'limit', name: second };
  if (first === 'parts' && third !== '') return { of: 'part', index: Number(second) - 1, name: third };
  return { of: 'snippet', name: path };
}

/** What a snippet has at a path; undefined where it has nothing there. */
export function snippetValueAt(snippet: SnapshotSnippet, path: string): unknown {
  const at = parsed(path);
  if (at.of === 'limit') return (snippet.limits as Record<string, unknown> | undefined)?.[at.name];
  if (at.of === 'part')
    return (snippet.parts[at.index] as unknown as Record<string, unknown> | undefined)?.[at.name];
  return (snippet as unknown as Record<string, unknown>)[at.name];
}

/** The snippet with another value at a path; undefined takes it away. A part that is not there is not made. */
export function snippetWith(snippet: SnapshotSnippet, path: string, value: unknown): SnapshotSnippet {
  const at = parsed(path);
  if (at.of === 'part')
    return {
      ...snippet,
      parts: snippet.parts.map((part, index) =>
        index === at.index ? (withValue(part, at.name, value) as SnapshotPart) : part,
      ),
    };
  if (at.of === 'limit') {
    const limits = withValue(snippet.limits ?? {}, at.name, value);
    return withValue(
      snippet,
      'limits',
      Object.keys(limits).length > 0 ? limits : undefined,
    ) as SnapshotSnippet;
  }
  return withValue(snippet, at.name, value) as SnapshotSnippet;
}

const LISTS = { pageGroups: 'key', fields: 'name' } as const;

/** What a set says of its site with another value at a path; undefined takes it away. */
export function siteWith(site: Snapshot['site'], path: string, value: unknown): Snapshot['site'] {
  const slash = path.indexOf('/');
  if (slash < 0) return withValue(site, path, value) as Snapshot['site'];
  const list = path.slice(0, slash) as keyof typeof LISTS;
  const name = path.slice(slash + 1);
  const items = (site[list] ?? []) as readonly object[];
  const isIt = (item: object): boolean => (item as Record<string, unknown>)[LISTS[list]] === name;
  const kept = value === undefined ? items.filter((item) => !isIt(item)) : items;
  const next = kept.some(isIt)
    ? kept.map((item) => (isIt(item) ? value : item))
    : value === undefined
      ? kept
      : [...kept, value];
  return withValue(site, list, next.length > 0 ? next : undefined) as Snapshot['site'];
}

function withValue(data: object, name: string, value: unknown): object {
  const { [name]: _, ...rest } = data as Record<string, unknown>;
  return value === undefined ? rest : { ...rest, [name]: value };
}
