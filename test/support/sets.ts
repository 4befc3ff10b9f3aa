import {
  pageAddress,
  type PageLoad,
  type Placement,
  type Snapshot,
  type SnapshotPart,
  type SnapshotSnippet,
} from '@pragmatica/core';

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

/** A page load: what is not named is a desktop on live, on a Monday at ten, that agreed to nothing. */
export function load(target: string, change: Partial<PageLoad> = {}): PageLoad {
  return {
    page: pageAddress(target),
    environment: 'live',
    device: 'desktop',
    at: MONDAY_TEN,
    consent: [],
    ...change,
  };
}

/** 2027-03-01, 10:00 UTC. */
export const MONDAY_TEN = Date.UTC(2027, 2, 1, 10);
