import type { Placement, Snapshot, SnapshotPart, SnapshotSnippet } from '@pragmatica/core';

/** A snippet for tests; what is not named is plain. */
export function snippet(key: string, change: Partial<SnapshotSnippet> = {}): SnapshotSnippet {
  return {
    key,
    name: key.toUpperCase(),
    purpose: '',
    provider: '',
    note: '',
    state: 'on',
    pages: { include: [], exclude: [] },
    parts: [part('body-end')],
    ...change,
  };
}

export function part(placement: Placement, rank = 0, code = '<script></script>'): SnapshotPart {
  return { placement, rank, code };
}

export function set(...snippets: SnapshotSnippet[]): Snapshot {
  return { format: 'pragmatica-set/1', site: { key: 's', name: 'S', timeZone: 'UTC' }, snippets };
}
