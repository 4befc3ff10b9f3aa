import type { EntityManager, EventSubscriber, FlushEventArgs, TransactionEventArgs } from '@mikro-orm/core';
import {
  siteChange,
  snippetChange,
  type Snapshot,
  type SnapshotSnippet,
  type TrailChange,
} from '@pragmatica/core';
import type { Audit, Part, Site, Snippet } from './entities/index.js';
import { readSite, readSnippets, snapshotSite } from './read-draft.js';
import { announceBy } from './live.js';
import type { Run } from './run.js';
import { chainEntries, type StoredEntry } from './trail-chain.js';

/** What a draft was before a transaction touched it, as far as it did. */
interface TouchedDraft {
  readonly site: Snapshot['site'] | undefined;
  /** By key; null where there was none. */
  readonly snippets: Map<string, SnapshotSnippet | null>;
}

/** What one transaction has done so far. */
class Recording {
  readonly entries = new Set<Audit>();
  /** By entry: what was said of it beside. */
  readonly said = new Map<Audit, TrailChange[]>();
  readonly drafts = new Map<number, TouchedDraft>();
}

type TrailChangeRow = TrailChange & { readonly entry: Audit };

/**
 * Keeps the trail complete: whatever a transaction does to a draft is written to its entry of the trail, before and after, and the
 * entries are chained as the last thing before it commits. Nothing that changes a draft has to remember it, and what changes one
 * without an entry does not commit.
 */
export class TrailKeeper implements EventSubscriber {
  readonly #recordings = new WeakMap<object, Recording>();

  afterTransactionStart({ transaction }: TransactionEventArgs): void {
    this.#recordings.set(transaction as object, new Recording());
  }

  async onFlush({ em, uow }: FlushEventArgs): Promise<void> {
    const touched = new Touched();
    for (const { name, entity, type } of uow.getChangeSets()) touched.add(name, entity, type);
    if (touched.isNothing) return;
    const transaction = em.getTransactionContext<object>();
    const recording = transaction && this.#recordings.get(transaction);
    if (!recording) {
      // A flush by itself is a transaction of its own, and is read when it commits.
      if (touched.changesDraft) throw new TypeError('A draft is changed within one transaction.');
      return;
    }
    record(recording, touched);
    await lookBefore(em, recording, touched);
  }

  async beforeTransactionCommit({ em, uow, transaction }: TransactionEventArgs): Promise<void> {
    const recording = this.#recordings.get(transaction as object) ?? new Recording();
    if (uow) {
      const touched = new Touched();
      for (const { name, entity, type } of uow.getChangeSets()) touched.add(name, entity, type);
      record(recording, touched);
    }
    if (recording.entries.size === 0 && recording.drafts.size === 0) return;
    const run = runIn(em, transaction);
    await writeDraftChanges(run, recording);
    const entries = [...recording.entries].sort((a, b) => a.id - b.id);
    await chainEntries(
      run,
      entries.map((entry) => storedEntry(entry, recording.said.get(entry) ?? [])),
    );
    // Whoever looks at a site just now sees what is done to it.
    for (const { site, by } of entries) if (site) await announceBy(run, { site: site.id, what: 'site', by });
  }
}

/** What a flush is about to write, as far as the trail is to know. */
class Touched {
  readonly entries: Audit[] = [];
  readonly changes: TrailChangeRow[] = [];
  readonly sites: Site[] = [];
  /** Snippets that are there already, by the id of their site. */
  readonly ids = new Map<number, Set<number>>();
  /** Keys of those that are new. */
  readonly added = new Map<number, Set<string>>();

  get changesDraft(): boolean {
    return this.sites.length > 0 || this.ids.size > 0 || this.added.size > 0;
  }

  get isNothing(): boolean {
    return !this.changesDraft && this.entries.length === 0 && this.changes.length === 0;
  }

  add(name: string, entity: unknown, type: string): void {
    if (name === 'Audit') this.entries.push(entity as Audit);
    else if (name === 'TrailChange') this.changes.push(entity as TrailChangeRow);
    // Of a site that is new there was nothing before.
    else if (name === 'Site' && type === 'update') this.sites.push(entity as Site);
    else if (name === 'Snippet') this.#addSnippet(entity as Snippet, type === 'create');
    else if (name === 'Part') this.#addPart(entity as Part);
  }

  #addPart({ snippet }: Part): void {
    // None where the snippet goes as a whole, which is told by itself.
    const home = snippet as unknown as Snippet | null | undefined;
    if (home) this.#addSnippet(home, false);
  }

  #addSnippet({ id, key, site }: Snippet, isNew: boolean): void {
    if (isNew) add(this.added, site.id, key);
    // A part of a snippet that is new itself comes with it.
    else if ((id as number | undefined) !== undefined) add(this.ids, site.id, id);
  }
}

function add<T>(sets: Map<number, Set<T>>, site: number, value: T): void {
  const set = sets.get(site);
  if (set) set.add(value);
  else sets.set(site, new Set([value]));
}

function record(recording: Recording, { entries, changes }: Touched): void {
  for (const entry of entries) recording.entries.add(entry);
  for (const { entry, kind, key, before, after } of changes) {
    const said = recording.said.get(entry) ?? [];
    said.push({ kind, key, before, after });
    recording.said.set(entry, said);
  }
}

/** Notes what is there before it is written over, once for each snippet and transaction. */
async function lookBefore(
  em: EntityManager,
  { drafts }: Recording,
  { sites, ids, added }: Touched,
): Promise<void> {
  const run = runIn(em, em.getTransactionContext());
  const draftOf = (site: number): TouchedDraft => {
    const known = drafts.get(site) ?? { site: undefined, snippets: new Map() };
    drafts.set(site, known);
    return known;
  };
  for (const { id } of sites)
    if (draftOf(id).site === undefined)
      drafts.set(id, { ...draftOf(id), site: snapshotSite(await readSite(run, id)) });
  for (const [site, wanted] of ids) {
    const { snippets } = draftOf(site);
    for (const snippet of await readSnippets(run, { ids: [...wanted] }))
      if (!snippets.has(snippet.key)) snippets.set(snippet.key, snippet);
  }
  for (const [site, keys] of added) {
    const { snippets } = draftOf(site);
    for (const key of keys) if (!snippets.has(key)) snippets.set(key, null);
  }
}

async function writeDraftChanges(run: Run, { entries, said, drafts }: Recording): Promise<void> {
  for (const [id, { site, snippets }] of drafts) {
    const now = new Map(
      (await readSnippets(run, { site: id, keys: [...snippets.keys()] })).map((one) => [one.key, one]),
    );
    const changes = [
      site && siteChange(site, snapshotSite(await readSite(run, id))),
      ...[...snippets].map(([key, before]) => snippetChange(before, now.get(key) ?? null)),
    ].filter((change) => change !== undefined);
    if (changes.length === 0) continue;
    const entry = [...entries].find((one) => one.site?.id === id);
    if (!entry) throw new TypeError('What changes a draft is written into the trail.');
    said.set(entry, [...(said.get(entry) ?? []), ...changes]);
    await run(
      `insert into trail_change (entry_id, kind, key, before, after)
       select ?, kind, key, nullif(before, 'null'), nullif(after, 'null') from jsonb_to_recordset(?::jsonb)
         as change (kind text, key text, before jsonb, after jsonb)`,
      [entry.id, JSON.stringify(changes)],
    );
  }
}

function storedEntry(
  { id, site, at, by, token, address, action, message }: Audit,
  changes: readonly TrailChange[],
): StoredEntry {
  const entry = {
    ...{ by, action, message, changes },
    at: at.toISOString(),
    token: token ?? null,
    address: address ?? null,
    site: site?.key ?? null,
  };
  return { id, entry };
}

/** @param transaction - in which it is run, whatever the manager itself is in */
function runIn(em: EntityManager, transaction: unknown): Run {
  const connection = em.getConnection();
  return async <T extends object>(sql: string, params: readonly unknown[] = []) =>
    (await connection.execute(sql, [...params], 'all', transaction)) as T[];
}
