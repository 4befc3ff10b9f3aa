import {
  CHAIN_START,
  entryDigest,
  nextLink,
  type ChainHead,
  type TrailChange,
  type TrailEntry,
  type TrailLink,
} from '@pragmatica/core';
import { emOf } from './em.js';
import type { Run } from './run.js';
import type { Store } from './store.js';

/** An entry with the id that it has in the trail. */
export interface StoredEntry {
  readonly id: number;
  readonly entry: TrailEntry;
}

/** One process at a time writes the chain; it is held from here to the end of the transaction. */
const LOCK = `select pg_advisory_xact_lock(hashtext('pragmatica.trail'))`;

/** Adds entries to the chain. The last thing that a transaction does: others that write the trail wait for its end. */
export async function chainEntries(run: Run, entries: readonly StoredEntry[]): Promise<void> {
  await run(LOCK, []);
  let head = (await lastLink(run)) ?? { number: 0, hash: CHAIN_START };
  const links = entries.map(({ id, entry }) => {
    const { at } = entry;
    const link = nextLink(head.hash, { number: head.number + 1, at, digest: entryDigest(entry) });
    head = link;
    return { ...link, entry: id };
  });
  await run(
    `insert into trail_link (number, entry, at, digest, hash)
     select number, entry, at, digest, hash from json_to_recordset(?::json)
       as link (number int, entry int, at timestamptz, digest text, hash text)`,
    [JSON.stringify(links)],
  );
}

async function lastLink(run: Run): Promise<ChainHead | undefined> {
  const [link] = await run<ChainHead>('select number, hash from trail_link order by number desc limit 1', []);
  return link;
}

/** Where the chain ends; number 0 before the first entry. */
export async function chainHead(store: Store): Promise<ChainHead> {
  const run: Run = async (sql, params = []) => emOf(store).execute(sql, [...params]);
  return (await lastLink(run)) ?? { number: 0, hash: CHAIN_START };
}

interface EntryRow extends Omit<TrailEntry, 'at' | 'changes'> {
  readonly id: number;
  readonly at: Date | string;
  readonly changes: readonly TrailChange[] | null;
}

const ENTRY = `a.id, s.key as site, a.at, a."by", a.token, a.address, a.action, a.message,
  (select json_agg(json_build_object('kind', c.kind, 'key', c.key, 'before', c.before, 'after', c.after) order by c.id)
   from trail_change c where c.entry_id = a.id) as changes`;

function toEntry({ id: _, at, changes, ...row }: EntryRow): TrailEntry {
  return { ...row, at: new Date(at).toISOString(), changes: changes ?? [] };
}

const AT_A_TIME = 500;

/**
 * Puts entries into the chain that nobody has chained: those from before there was one, and those that an older version of the
 * service wrote beside this one. @returns how many
 */
export async function chainForsaken(store: Store): Promise<number> {
  let chained = 0;
  for (;;) {
    const count = await emOf(store).transactional(async (em) => {
      const run: Run = async (sql, params = []) => em.execute(sql, [...params]);
      await run(LOCK, []);
      const rows = await run<EntryRow>(
        `select ${ENTRY} from audit a left join site s on s.id = a.site_id
         where not exists (select from trail_link l where l.entry = a.id) order by a.id limit ?`,
        [AT_A_TIME],
      );
      if (rows.length > 0)
        await chainEntries(
          run,
          rows.map((row) => ({ id: row.id, entry: toEntry(row) })),
        );
      return rows.length;
    });
    chained += count;
    if (count < AT_A_TIME) return chained;
  }
}

/** The chain from one link on, each with its entry; undefined where that is gone. */
export async function readChain(store: Store, after: number): Promise<ChainedEntry[]> {
  return readChainBy(async (sql, params = []) => emOf(store).execute(sql, [...params]), after);
}

/** A link with its entry; undefined where that is gone. */
export interface ChainedEntry {
  readonly link: TrailLink;
  readonly entry: TrailEntry | undefined;
}

/** The same on a connection of somebody else's. */
export async function readChainBy(run: Run, after: number): Promise<ChainedEntry[]> {
  const rows = await run<
    Omit<EntryRow, 'id'> & {
      readonly id: number | null;
      readonly number: number;
      readonly linkAt: Date | string;
      readonly digest: string;
      readonly hash: string;
    }
  >(
    `select l.number, l.at as "linkAt", l.digest, l.hash, ${ENTRY}
     from trail_link l left join audit a on a.id = l.entry left join site s on s.id = a.site_id
     where l.number > ? order by l.number limit ?`,
    [after, AT_A_TIME],
  );
  return rows.map(({ number, linkAt, digest, hash, id, ...row }) => ({
    link: { number, at: new Date(linkAt).toISOString(), digest, hash },
    entry: id === null ? undefined : toEntry({ id, ...row }),
  }));
}
