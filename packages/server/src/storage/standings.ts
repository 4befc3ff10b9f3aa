import type { KnownLoss, KnownStanding, StandingState } from '@pragmatica/core';
import { emOf } from './em.js';
import { fromStored, toStored } from './deferred-words.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';
import type { VisitRound } from './visit-rounds.js';

/** How a snippet stood after a round. */
export interface StandingRow {
  readonly round: number;
  readonly release: number | null;
  readonly at: Date;
  readonly snippet: string;
  readonly name: string;
  readonly state: StandingState;
  readonly losses: readonly KnownLoss[];
  readonly message: string;
}

/** A name may be ours: that of the pages themselves. */
type StandingWords = Pick<StandingRow, 'name' | 'message'>;

/** Writes down how the snippets of a host stand, once for a round; what is older than so many rounds of it is removed. */
export async function addStandings(
  store: Store,
  { siteId, host, number, release }: Pick<VisitRound, 'siteId' | 'host' | 'number' | 'release'>,
  standings: readonly Omit<StandingRow, 'round' | 'release' | 'at'>[],
  kept: number,
): Promise<void> {
  const em = emOf(store);
  const rows = standings.map(({ name, message, ...standing }) => {
    const { words, said } = toStored<StandingWords>({ name, message });
    return { ...standing, ...words, said };
  });
  await em.execute('delete from standing where site_id = ? and host = ? and round = ?', [
    ...[siteId, host, number],
  ]);
  await em.execute(
    `insert into standing (site_id, host, round, release, at, snippet, name, state, losses, message, said)
       select ?, ?, ?, ?, now(), snippet, name, state, losses, message, said
       from json_to_recordset(?::json)
         as s(snippet text, name text, state text, losses jsonb, message text, said json)`,
    [siteId, host, number, release, JSON.stringify(rows).replaceAll('\\u0000', '\\ufffd')],
  );
  await em.execute(
    `delete from standing where site_id = ? and host = ? and round < (
       select min(round) from (select distinct round from standing where site_id = ? and host = ?
         order by round desc limit ?) newest)`,
    [siteId, host, siteId, host, kept],
  );
}

/** How the snippets of a host stood after the last so many rounds, the oldest first. */
export async function standingsOfHost(
  store: Store,
  site: Pick<Site, 'id'>,
  host: string,
  rounds: number,
): Promise<readonly StandingRow[]> {
  const rows = await emOf(store).execute<(StandingRow & { readonly said: StandingWords | null })[]>(
    `select round, release, at, snippet, name, state, losses, message, said from standing
     where site_id = ? and host = ? and round in (
       select distinct round from standing where site_id = ? and host = ? order by round desc limit ?)
     order by round, id`,
    [site.id, host, site.id, host, rounds],
  );
  return rows.map(({ said, ...row }) => ({
    ...row,
    ...fromStored<StandingWords>({ name: row.name, message: row.message }, said),
    at: new Date(row.at),
  }));
}

/** How the snippets of a host stood after one round. */
export async function standingsOfRound(
  store: Store,
  { siteId, host }: Pick<VisitRound, 'siteId' | 'host'>,
  round: number,
): Promise<readonly KnownStanding[]> {
  return emOf(store).execute<KnownStanding[]>(
    `select snippet, losses from standing
     where site_id = ? and host = ? and round = ? and state in ('well', 'lost')`,
    [siteId, host, round],
  );
}

/** What was last told, or seen well, of the snippets of a host. */
export async function toldOf(
  store: Store,
  { siteId, host }: Pick<VisitRound, 'siteId' | 'host'>,
): Promise<readonly KnownStanding[]> {
  return emOf(store).execute<KnownStanding[]>(
    'select snippet, losses from told_standing where site_id = ? and host = ?',
    [siteId, host],
  );
}

/** Keeps what is known from now on, instead of what was. */
export async function saveTold(
  store: Store,
  { siteId, host, number }: Pick<VisitRound, 'siteId' | 'host' | 'number'>,
  known: readonly KnownStanding[],
): Promise<void> {
  const em = emOf(store);
  await em.execute('delete from told_standing where site_id = ? and host = ?', [siteId, host]);
  await em.execute(
    `insert into told_standing (site_id, host, snippet, losses, round)
       select ?, ?, snippet, losses, ? from json_to_recordset(?::json) as t(snippet text, losses jsonb)`,
    [siteId, host, number, JSON.stringify(known)],
  );
}
