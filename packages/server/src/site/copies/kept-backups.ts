import {
  BackupError,
  assertRecipients,
  openBackup,
  readBackup,
  type BackupManifest,
} from '@pragmatica/backup';
import type {
  BackupContents,
  BackupList,
  BackupRuleInput,
  BackupRuleResource,
  KeptBackup,
} from '@pragmatica/contract';
import { nextRun, scheduleProblem, scheduleWords } from '@pragmatica/core';
import { ServiceError, errorAt } from '../../errors.js';
import {
  askForBackup,
  backupRow,
  failBackup,
  listBackupRows,
  openBackups,
  readBackupRule,
  removeBackupRow,
  saveBackupRule,
  type BackupRow,
  type BackupRule,
} from '../../storage/copies/backup-rows.js';
import type { Store } from '../../storage/store.js';
import { audit } from '../../storage/trail.js';
import { COPY_TEXTS } from '../../texts/copies.js';
import { say } from '../../texts/say.js';
import { SCHEDULE_PROBLEMS } from '../schedule-problems.js';
import type { Acting } from '../use-case.js';
import type { BackupFolder } from './backup-folder.js';
import { copyProblem } from './problems.js';

/** More are not listed. */
const LISTED = 200;

/** The backups in the folder, and when the next one is made. */
export async function listBackups(store: Store, folder: BackupFolder): Promise<BackupList> {
  const [rule, rows] = [await readBackupRule(store), await listBackupRows(store, LISTED)];
  return {
    rule: ruleResource(rule, folder),
    items: await Promise.all(rows.map(async (row) => resource(row, folder))),
  };
}

/** @throws ServiceError 422 */
export async function setBackupRule(
  folder: BackupFolder,
  { cron: written, ...input }: BackupRuleInput,
  { store, actor }: Acting,
): Promise<BackupRuleResource> {
  const cron = written.trim().replace(/\s+/g, ' ');
  const now = new Date();
  const problem = scheduleProblem(cron, input.zone, now);
  if (problem) throw errorAt('/cron', SCHEDULE_PROBLEMS[problem], { cron });
  input.recipients.forEach((text, place) => {
    try {
      assertRecipients([text]);
    } catch (error) {
      if (!(error instanceof BackupError)) throw error;
      throw errorAt(`/recipients/${place}`, 'not-recipient', { why: error.message });
    }
  });
  await store.transactional(async (transaction) => {
    const nextAt = nextRun(cron, input.zone, now) ?? null;
    await saveBackupRule(transaction, { ...input, cron, nextAt, setBy: actor });
    audit(transaction, null, actor, 'backup', () => COPY_TEXTS.planned);
    await transaction.flush();
  });
  return ruleResource(await readBackupRule(store), folder);
}

/** Puts a backup in line. @throws ServiceError 409 where one is under way */
export async function askBackup(folder: BackupFolder, { store, actor }: Acting): Promise<KeptBackup> {
  const row = await store.transactional(async (transaction) => {
    await readBackupRule(transaction, true);
    if ((await openBackups(transaction)) > 0) throw new ServiceError('backup-under-way', {});
    return askForBackup(transaction, actor);
  });
  return resource(row, folder);
}

/** What is in a backup. @throws ServiceError 404, 409 */
export async function showBackup(store: Store, folder: BackupFolder, id: number): Promise<BackupContents> {
  const bytes = await readableFile(store, folder, id);
  try {
    const { madeAt, version, sites, tables } = await manifestOf(bytes);
    return { madeAt, version, sites, rows: tables.reduce((sum, { rows }) => sum + rows, 0) };
  } catch (error) {
    throw copyProblem(error);
  }
}

export interface FetchedFile {
  readonly file: string;
  readonly bytes: AsyncIterable<Uint8Array>;
}

/** The file as it lies there. @throws ServiceError 404, 409 */
export async function fetchBackup(
  folder: BackupFolder,
  id: number,
  { store, actor }: Acting,
): Promise<FetchedFile> {
  const file = await fileOf(store, folder, id);
  await store.transactional(async (transaction) => {
    audit(transaction, null, actor, 'backup', () => say(COPY_TEXTS.fetched, { file }));
    await transaction.flush();
  });
  return { file, bytes: folder.read(file) };
}

/** A backup's archive, of one that the service can read. @throws ServiceError 404, 409 */
export async function readableFile(
  store: Store,
  folder: BackupFolder,
  id: number,
): Promise<AsyncIterable<Uint8Array>> {
  const row = await findRow(store, id);
  if (row.recipients > 0) throw new ServiceError('backup-encrypted', {});
  return openBackup(folder.read(await fileOf(store, folder, id)), []);
}

/** Cancels one that is not made yet, or removes one with its file. @throws ServiceError 404, 409 */
export async function removeBackup(
  folder: BackupFolder,
  id: number,
  { store, actor }: Acting,
): Promise<void> {
  const { state, file } = await findRow(store, id);
  if (state === 'waiting' || state === 'running') {
    await failBackup(store, id, COPY_TEXTS.cancelled);
    return;
  }
  if (file !== null) await folder.remove(await fileOf(store, folder, id));
  await store.transactional(async (transaction) => {
    await removeBackupRow(transaction, id);
    if (file !== null) audit(transaction, null, actor, 'backup', () => say(COPY_TEXTS.removed, { file }));
    await transaction.flush();
  });
}

async function findRow(store: Store, id: number): Promise<BackupRow> {
  const row = await backupRow(store, id);
  if (!row) throw new ServiceError('no-such-backup', { backup: id });
  return row;
}

async function fileOf(store: Store, folder: BackupFolder, id: number): Promise<string> {
  const { file, machine } = await findRow(store, id);
  if (file === null) throw new ServiceError('backup-not-made', {});
  if (!(await folder.has(file))) throw new ServiceError('backup-not-here', { file, machine: machine ?? '' });
  return file;
}

async function manifestOf(bytes: AsyncIterable<Uint8Array>): Promise<BackupManifest> {
  for await (const item of readBackup(bytes)) if (item.type === 'manifest') return item.manifest;
  throw new BackupError('notBackup');
}

function ruleResource(
  { isOn, cron, zone, keep, recipients, nextAt, setBy, setAt }: BackupRule,
  folder: BackupFolder,
): BackupRuleResource {
  return {
    isOn,
    cron,
    zone,
    keep,
    recipients: [...recipients],
    words: scheduleWords(cron),
    nextAt: isOn ? (nextAt?.toISOString() ?? null) : null,
    by: setBy,
    at: setAt.toISOString(),
    folder: folder.path,
  };
}

async function resource(
  {
    id,
    state,
    by,
    machine,
    file,
    madeAt,
    askedAt,
    bytes,
    sha256,
    doneRows,
    allRows,
    recipients,
    problem,
  }: BackupRow,
  folder: BackupFolder,
): Promise<KeptBackup> {
  return {
    ...{ id, state, by, machine, file, bytes, sha256, doneRows, allRows, problem },
    at: (madeAt ?? askedAt).toISOString(),
    isEncrypted: recipients > 0,
    isHere: file !== null && (await folder.has(file)),
  };
}
