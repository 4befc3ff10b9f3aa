import type { KeepRule } from '@pragmatica/core';
import { emOf } from '../em.js';
import type { Store } from '../store.js';

/** When backups are made by themselves, for whom, and how many are kept. */
export interface BackupRule {
  readonly isOn: boolean;
  readonly cron: string;
  readonly zone: string;
  readonly keep: KeepRule;
  readonly recipients: readonly string[];
  readonly nextAt: Date | null;
  /** Empty where it was there from the start. */
  readonly setBy: string;
  readonly setAt: Date;
}

const RULE = `is_on as "isOn", cron, zone, keep, recipients, next_at as "nextAt", set_by as "setBy", set_at as "setAt"`;

export async function readBackupRule(store: Store, isLocked = false): Promise<BackupRule> {
  const [row] = await emOf(store).execute<BackupRule[]>(
    `select ${RULE} from backup_rule ${isLocked ? 'for update' : ''}`,
  );
  return { ...row!, nextAt: row!.nextAt && new Date(row!.nextAt), setAt: new Date(row!.setAt) };
}

export async function saveBackupRule(
  store: Store,
  { isOn, cron, zone, keep, recipients, nextAt, setBy }: Omit<BackupRule, 'setAt'>,
): Promise<void> {
  await emOf(store).execute(
    `update backup_rule set is_on = ?, cron = ?, zone = ?, keep = ?::jsonb, recipients = ?::jsonb, next_at = ?, set_by = ?,
       set_at = now()`,
    [isOn, cron, zone, JSON.stringify(keep), JSON.stringify(recipients), nextAt, setBy],
  );
}

export async function moveBackupRule(store: Store, nextAt: Date | null): Promise<void> {
  await emOf(store).execute('update backup_rule set next_at = ?', [nextAt]);
}

export type BackupState = 'waiting' | 'running' | 'done' | 'failed';

/** A backup that the installation made of itself, or is about to. */
export interface BackupRow {
  readonly id: number;
  readonly state: BackupState;
  /** Login of whoever asked for it; null where it was its time. */
  readonly by: string | null;
  /** Name of the machine that it lies on. */
  readonly machine: string | null;
  readonly file: string | null;
  readonly madeAt: Date | null;
  readonly bytes: number | null;
  readonly sha256: string | null;
  readonly doneRows: number;
  readonly allRows: number | null;
  /** For how many keys it is encrypted; 0 where it is not. */
  readonly recipients: number;
  readonly problem: string | null;
  readonly askedAt: Date;
  readonly endedAt: Date | null;
}

const ROW = `id, state, "by", machine, file, made_at as "madeAt", bytes::float8 as bytes, sha256, done_rows as "doneRows",
  all_rows as "allRows", recipients, problem, asked_at as "askedAt", ended_at as "endedAt"`;

function toRow(row: BackupRow): BackupRow {
  return {
    ...row,
    madeAt: row.madeAt && new Date(row.madeAt),
    askedAt: new Date(row.askedAt),
    endedAt: row.endedAt && new Date(row.endedAt),
  };
}

/** The newest first. */
export async function listBackupRows(store: Store, limit: number): Promise<readonly BackupRow[]> {
  const rows = await emOf(store).execute<BackupRow[]>(`select ${ROW} from backup order by id desc limit ?`, [
    limit,
  ]);
  return rows.map(toRow);
}

export async function backupRow(store: Store, id: number): Promise<BackupRow | undefined> {
  const [row] = await emOf(store).execute<BackupRow[]>(`select ${ROW} from backup where id = ?`, [id]);
  return row && toRow(row);
}

/** Puts one in line; a worker makes it. @param by - null where it is its time */
export async function askForBackup(store: Store, by: string | null): Promise<BackupRow> {
  const [row] = await emOf(store).execute<BackupRow[]>(
    `insert into backup ("by") values (?) returning ${ROW}`,
    [by],
  );
  return toRow(row!);
}

/** How many wait or are being made. */
export async function openBackups(store: Store): Promise<number> {
  const [row] = await emOf(store).execute<{ count: number }[]>(
    `select count(*)::int as count from backup where state in ('waiting', 'running')`,
  );
  return row!.count;
}

/** Takes the one that waits longest. */
export async function takeWaitingBackup(store: Store, machine: string): Promise<BackupRow | undefined> {
  const [row] = await emOf(store).execute<BackupRow[]>(
    `update backup set state = 'running', machine = ?, beat_at = now() where id = (
       select id from backup where state = 'waiting' order by id limit 1 for update skip locked)
     returning ${ROW}`,
    [machine],
  );
  return row && toRow(row);
}

/** Says how far it is. @returns whether it is still wanted */
export async function beatBackup(
  store: Store,
  id: number,
  { doneRows, allRows }: Pick<BackupRow, 'doneRows' | 'allRows'>,
): Promise<boolean> {
  const rows = await emOf(store).execute<unknown[]>(
    `update backup set beat_at = now(), done_rows = ?, all_rows = ? where id = ? and state = 'running' returning id`,
    [doneRows, allRows, id],
  );
  return rows.length > 0;
}

/** It is made. */
export async function endBackup(
  store: Store,
  id: number,
  {
    file,
    madeAt,
    bytes,
    sha256,
    recipients,
  }: Pick<BackupRow, 'file' | 'madeAt' | 'bytes' | 'sha256' | 'recipients'>,
): Promise<void> {
  await emOf(store).execute(
    `update backup set state = 'done', file = ?, made_at = ?, bytes = ?, sha256 = ?, recipients = ?, done_rows = all_rows,
       ended_at = now() where id = ?`,
    [file, madeAt, bytes, sha256, recipients, id],
  );
}

/** It will not be made. @param problem - why, in words */
export async function failBackup(store: Store, id: number, problem: string): Promise<boolean> {
  const rows = await emOf(store).execute<unknown[]>(
    `update backup set state = 'failed', problem = ?, ended_at = now()
     where id = ? and state in ('waiting', 'running') returning id`,
    [problem, id],
  );
  return rows.length > 0;
}

/** Ends those whose worker has not been heard of for so long. @returns theirs */
export async function failForsakenBackups(
  store: Store,
  silentS: number,
  problem: string,
): Promise<readonly BackupRow[]> {
  const rows = await emOf(store).execute<BackupRow[]>(
    `update backup set state = 'failed', problem = ?, ended_at = now()
     where state = 'running' and beat_at < now() - ? * interval '1 second' returning ${ROW}`,
    [problem, silentS],
  );
  return rows.map(toRow);
}

export async function removeBackupRow(store: Store, id: number): Promise<void> {
  await emOf(store).execute('delete from backup where id = ?', [id]);
}
