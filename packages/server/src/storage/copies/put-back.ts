import { columnsOf, sequencesOf } from './columns.js';
import { quoted, type LongConnection } from './connection.js';
import type { Loaded } from './load.js';
import type { Run } from '../run.js';
import { COPIED, type CopiedTable } from './tables.js';

/** There is something in the installation already. */
export class NotEmpty extends Error {
  override name = 'NotEmpty';
}

export interface PutBack {
  /** Whether it is only looked at: nothing is planned, mailed or told to other programs. */
  readonly isQuiet: boolean;
  /** What is said of notices that were waiting. */
  readonly untold: string;
}

/** The schema that an installation lives in. */
const HOME = 'public';

/**
 * Makes the installation what was loaded, in the transaction that has been begun. What was made at its first start (its first
 * member) is gone.
 *
 * @throws NotEmpty
 */
export async function putBack(
  { run }: LongConnection,
  schema: string,
  { manifest }: Loaded,
  { isQuiet, untold }: PutBack,
): Promise<void> {
  await run(`set local search_path to ${HOME}`);
  const names = COPIED.map(({ name }) => quoted(name));
  await run(`lock table ${names.join(', ')} in share row exclusive mode`);
  if (await hasSomething(run)) throw new NotEmpty();
  const columns = await columnsOf(run, HOME);
  await switchTriggers(run, 'disable');
  for (const table of [...COPIED].reverse()) await run(`delete from ${quoted(table.name)}`);
  for (const table of COPIED) await copyTable(run, schema, table, columns.get(table.name)!);
  const sequences = await sequencesOf(run, HOME);
  for (const { name, last } of manifest.tables) {
    const sequence = sequences.get(name);
    if (sequence !== undefined && last !== null)
      await run(`select setval(?::regclass, ?, ?)`, [quoted(sequence), Math.max(last, 1), last > 0]);
  }
  await settle(run, { isQuiet, untold });
  await switchTriggers(run, 'enable');
  await run(`drop schema ${quoted(schema)} cascade`);
}

/** Whether anybody has begun to use it. */
export async function hasSomething(run: Run): Promise<boolean> {
  const [row] = await run<{ something: boolean }>(
    `select exists (select from site) or exists (select from recipe) or (select count(*) from member) > 1 as something`,
  );
  return row!.something;
}

async function copyTable(
  run: Run,
  schema: string,
  { name }: CopiedTable,
  columns: readonly string[],
): Promise<void> {
  const list = columns.map(quoted).join(', ');
  await run(
    `insert into ${quoted(name)} (${list}) select ${list} from ${quoted(schema)}.${quoted(name)} order by 1`,
  );
}

async function switchTriggers(run: Run, to: 'enable' | 'disable'): Promise<void> {
  for (const { name } of COPIED) await run(`alter table ${quoted(name)} ${to} trigger user`);
}

/** What was under way is over; what was about to be told has been told since, or is told no more. */
async function settle(run: Run, { isQuiet, untold }: PutBack): Promise<void> {
  await run(`update notice set state = 'failed', next_at = null, answer = ? where state = 'waiting'`, [
    untold,
  ]);
  await run(`update survey set state = 'cancelled', ended_at = now() where state in ('waiting', 'running')`);
  await run(
    `update visit_round set state = 'cancelled', ended_at = now() where state in ('waiting', 'running')`,
  );
  if (!isQuiet) return;
  await run('delete from survey_schedule');
  await run('delete from webhook');
  await run(
    `update site_watch set cron = null, next_at = null, after_publishing = 'nothing', mail_to = '[]'`,
  );
}
