import type { KnownStanding, LostAt, SnippetStanding, StandingState } from '@pragmatica/core';
import { emOf } from './em.js';
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
  readonly lostAt: LostAt | null;
  readonly message: string;
}

/** Writes down how the snippets of a host stand; what is older than so many rounds of it is removed. */
export async function addStandings(
  store: Store,
  { siteId, host, number, release }: Pick<VisitRound, 'siteId' | 'host' | 'number' | 'release'>,
  standings: readonly (SnippetStanding & { readonly message: string })[],
  kept: number,
): Promise<void> {
  const em = emOf(store);
  const rows = standings.map(({ snippet, name, state, lost, message }) => ({
    ...{ snippet, name, state, message },
    lost_at: lost?.at ?? null,
    cause_id: lost?.cause.id ?? null,
  }));
  await em.execute(
    `insert into standing (site_id, host, round, release, at, snippet, name, state, lost_at, cause_id, message)
       select ?, ?, ?, ?, now(), snippet, name, state, lost_at, cause_id, message
       from json_to_recordset(?::json)
         as s(snippet text, name text, state text, lost_at text, cause_id text, message text)`,
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
  const rows = await emOf(store).execute<StandingRow[]>(
    `select round, release, at, snippet, name, state, lost_at as "lostAt", message from standing
     where site_id = ? and host = ? and round in (
       select distinct round from standing where site_id = ? and host = ? order by round desc limit ?)
     order by round, id`,
    [site.id, host, site.id, host, rounds],
  );
  return rows.map((row) => ({ ...row, at: new Date(row.at) }));
}

/** How the snippets of a host stood after one round. */
export async function standingsOfRound(
  store: Store,
  { siteId, host }: Pick<VisitRound, 'siteId' | 'host'>,
  round: number,
): Promise<readonly KnownStanding[]> {
  const rows = await emOf(store).execute<ToldRow[]>(
    `select snippet, lost_at as "lostAt", cause_id as "causeId" from standing
     where site_id = ? and host = ? and round = ? and state in ('well', 'lost')`,
    [siteId, host, round],
  );
  return rows.map(toKnown);
}

interface ToldRow {
  readonly snippet: string;
  readonly lostAt: LostAt | null;
  readonly causeId: string | null;
}

const toKnown = ({ snippet, lostAt, causeId }: ToldRow): KnownStanding => ({
  snippet,
  lost: lostAt === null || causeId === null ? null : { at: lostAt, causeId },
});

/** What was last told, or seen well, of the snippets of a host. */
export async function toldOf(
  store: Store,
  { siteId, host }: Pick<VisitRound, 'siteId' | 'host'>,
): Promise<readonly KnownStanding[]> {
  const rows = await emOf(store).execute<ToldRow[]>(
    `select snippet, lost_at as "lostAt", cause_id as "causeId" from told_standing where site_id = ? and host = ?`,
    [siteId, host],
  );
  return rows.map(toKnown);
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
    `insert into told_standing (site_id, host, snippet, lost_at, cause_id, round)
       select ?, ?, snippet, lost_at, cause_id, ?
       from json_to_recordset(?::json) as t(snippet text, lost_at text, cause_id text)`,
    [
      ...[siteId, host, number],
      JSON.stringify(
        known.map(({ snippet, lost }) => ({
          snippet,
          lost_at: lost?.at ?? null,
          cause_id: lost?.causeId ?? null,
        })),
      ),
    ],
  );
}
