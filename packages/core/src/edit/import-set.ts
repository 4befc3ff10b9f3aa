import { placementKey } from '../insert/index.js';
import { normalizeLimits } from '../reach/index.js';
import { partKey, type Snapshot, type SnapshotSnippet } from '../snapshot/index.js';

export interface ImportOptions {
  /** Whether what is not in the set that comes goes: snippets, page groups and fields. */
  readonly removes: boolean;
}

/**
 * The set of a site once another has come into it. Snippets are known by their keys: those that come replace those that are there,
 * others stay. What comes from another site brings the page groups, fields and purposes of consent that are not there yet, and
 * changes none that are; the site's own set, edited elsewhere, changes these too.
 */
export function importedSet(current: Snapshot, incoming: Snapshot, { removes }: ImportOptions): Snapshot {
  const come = incoming.snippets.map(plain);
  const coming = new Map(come.map((snippet) => [snippet.key, snippet]));
  const kept = current.snippets.filter(({ key }) => coming.has(key) || !removes);
  const there = new Set(kept.map(({ key }) => key));
  const snippets = [
    ...kept.map((snippet) => changed(snippet, coming.get(snippet.key))),
    ...come.filter(({ key }) => !there.has(key)),
  ];
  return ranked(current, incoming, {
    format: current.format,
    site: importedSite(current.site, incoming.site, removes),
    snippets,
  });
}

/** Since when something is off is not for whoever edits a file to say. */
function changed(was: SnapshotSnippet, now: SnapshotSnippet | undefined): SnapshotSnippet {
  if (!now) return was;
  return was.state === now.state && was.stateSince ? { ...now, stateSince: was.stateSince } : now;
}

/** A snippet without what is empty, as drafts hold it, and without since when it is off. */
function plain({ stateSince: _, limits, needs = [], parts, ...snippet }: SnapshotSnippet): SnapshotSnippet {
  const bounds = normalizeLimits(limits);
  return {
    ...snippet,
    ...(bounds ? { limits: bounds } : {}),
    ...(needs.length > 0 ? { needs } : {}),
    parts: parts.map(({ statement = '', per, ...part }) => ({
      ...part,
      ...(statement === '' ? {} : { statement }),
      ...(per === 'view' ? { per } : {}),
    })),
  };
}

type Site = Snapshot['site'];

function importedSite(current: Site, incoming: Site, removes: boolean): Site {
  const isOwn = current.key === incoming.key;
  const merged = <T>(
    was: readonly T[] = [],
    now: readonly T[] = [],
    keyOf: (one: T) => string,
  ): readonly T[] => {
    if (isOwn && removes) return now;
    const coming = new Map(now.map((one) => [keyOf(one), one]));
    const there = new Set(was.map(keyOf));
    return [
      ...was.map((one) => (isOwn ? (coming.get(keyOf(one)) ?? one) : one)),
      ...now.filter((one) => !there.has(keyOf(one))),
    ];
  };
  const pageGroups = merged(current.pageGroups, incoming.pageGroups, ({ key }) => key);
  const fields = merged(current.fields, incoming.fields, ({ name }) => name);
  const consent = isOwn
    ? (incoming.consent ?? (removes ? undefined : current.consent))
    : (current.consent ?? incoming.consent);
  return {
    key: current.key,
    name: isOwn ? incoming.name : current.name,
    timeZone: isOwn ? incoming.timeZone : current.timeZone,
    ...(pageGroups.length > 0 ? { pageGroups } : {}),
    ...(consent ? { consent } : {}),
    ...(fields.length > 0 ? { fields } : {}),
  };
}

interface Listed {
  readonly key: string;
  readonly rank: number;
}

/** Keys of parts by placement, in order. */
function listsOf({ snippets }: Snapshot): ReadonlyMap<string, readonly Listed[]> {
  const lists = new Map<string, Listed[]>();
  for (const { key, parts } of snippets)
    parts.forEach(({ placement, rank }, index) => {
      const name = placementKey(placement);
      const list = lists.get(name) ?? [];
      list.push({ key: partKey(key, index), rank });
      lists.set(name, list);
    });
  for (const list of lists.values()) list.sort((a, b) => a.rank - b.rank || (a.key < b.key ? -1 : 1));
  return lists;
}

/** The set with ranks: parts that came in the order in which they came, others behind what they stood behind before. */
function ranked(current: Snapshot, incoming: Snapshot, set: Snapshot): Snapshot {
  const was = listsOf(current);
  const comes = listsOf(incoming);
  const ranks = new Map<string, number>();
  for (const [name, members] of listsOf(set)) {
    const before = was.get(name) ?? [];
    const wanted = new Set(members.map(({ key }) => key));
    const order = (comes.get(name) ?? []).map(({ key }) => key).filter((key) => wanted.has(key));
    let last: string | undefined;
    const placed = new Set(order);
    for (const { key } of before.filter((one) => wanted.has(one.key))) {
      if (!placed.has(key)) {
        order.splice(last === undefined ? 0 : order.indexOf(last) + 1, 0, key);
        placed.add(key);
      }
      last = key;
    }
    const isSame = before.length === order.length && before.every(({ key }, index) => key === order[index]);
    order.forEach((key, index) => ranks.set(`${name} ${key}`, isSame ? before[index]!.rank : index));
  }
  return {
    ...set,
    snippets: set.snippets.map((snippet) => ({
      ...snippet,
      parts: snippet.parts.map((part, index) => ({
        ...part,
        rank: ranks.get(`${placementKey(part.placement)} ${partKey(snippet.key, index)}`)!,
      })),
    })),
  };
}
