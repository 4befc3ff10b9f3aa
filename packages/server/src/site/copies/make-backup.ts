import { packBackup } from '@pragmatica/backup';
import { keptCopies } from '@pragmatica/core';
import {
  beatBackup,
  endBackup,
  failBackup,
  listBackupRows,
  readBackupRule,
  removeBackupRow,
  takeWaitingBackup,
  type BackupRow,
} from '../../storage/copies/backup-rows.js';
import type { Store } from '../../storage/store.js';
import { audit } from '../../storage/trail.js';
import { COPY_TEXTS } from '../../texts/copies.js';
import { say } from '../../texts/say.js';
import { VERSION } from '../../version.js';
import type { BackupFolder } from './backup-folder.js';
import type { Copying } from './take-backup.js';

const BEAT_MS = 1_000;
/** More are not looked at: so many are never kept. */
const MOST_ROWS = 2_000;

export interface MakingTools extends Copying {
  readonly store: Store;
  readonly folder: BackupFolder;
}

/** Makes the backup that waits longest, in this machine's folder. @returns whether one waited */
export async function makeWaitingBackup(tools: MakingTools, signal: AbortSignal): Promise<boolean> {
  const { folder } = tools;
  const store = tools.store.fork();
  const row = await takeWaitingBackup(store, folder.machine);
  if (!row) return false;
  try {
    await make(tools, row, signal);
  } catch (error) {
    const why = (): string => (signal.aborted ? COPY_TEXTS.stopped : reasonOf(error));
    // Whoever cancelled it has said so already.
    if (await failBackup(store, row.id, why()))
      await enter(store, row, () => say(COPY_TEXTS.failed, { why: why() }));
  }
  await prune(tools);
  return true;
}

async function make(tools: MakingTools, row: BackupRow, signal: AbortSignal): Promise<void> {
  const { store: root, copies, box, folder } = tools;
  const store = root.fork();
  const last = (await listBackupRows(store, MOST_ROWS)).find(({ state }) => state === 'done');
  if (!(await folder.hasRoom(last?.bytes ?? 0))) throw new NoRoom();
  const { recipients } = await readBackupRule(store);
  const cancel = new AbortController();
  const state = { doneRows: 0, allRows: null as number | null, madeAt: new Date() };
  const beat = setInterval(() => {
    beatBackup(root.fork(), row.id, state).then(
      (isWanted) => isWanted || cancel.abort(),
      // The database is away for a moment: then the backup ends by itself, or goes on.
      () => undefined,
    );
  }, BEAT_MS);
  try {
    const bytes = copies.dump({
      version: VERSION,
      key: box.exportKey(),
      onManifest: ({ madeAt, tables }) => {
        state.madeAt = new Date(madeAt);
        state.allRows = tables.reduce((sum, { rows }) => sum + rows, 0);
      },
      onRows: (rows) => (state.doneRows = rows),
    });
    const file = nameOf(row, recipients.length > 0);
    const until = AbortSignal.any([signal, cancel.signal]);
    const written = await folder.write(file, await packBackup(bytes, recipients), until);
    await beatBackup(store, row.id, state);
    await endBackup(store, row.id, {
      file,
      madeAt: state.madeAt,
      ...written,
      recipients: recipients.length,
    });
    await enter(store, row, () => say(COPY_TEXTS.made, { file, machine: folder.machine }));
  } finally {
    clearInterval(beat);
  }
}

/** There is no room for it. */
class NoRoom extends Error {
  override name = 'NoRoom';
}

function reasonOf(error: unknown): string {
  const code = error instanceof Error ? (error as NodeJS.ErrnoException).code : undefined;
  if (error instanceof NoRoom || code === 'ENOSPC') return COPY_TEXTS.noRoom;
  if (code === 'EACCES' || code === 'EPERM' || code === 'EROFS') return COPY_TEXTS.noAccess;
  return say(COPY_TEXTS.other, { why: error instanceof Error ? error.message : String(error) });
}

function nameOf({ id, askedAt }: BackupRow, isSealed: boolean): string {
  const moment = askedAt.toISOString().slice(0, 16).replace('T', '-').replace(':', '');
  return `pragmatica-${moment}-${id}.tar.gz${isSealed ? '.age' : ''}`;
}

async function enter(store: Store, { by }: BackupRow, message: () => string): Promise<void> {
  await store.transactional(async (transaction) => {
    audit(transaction, null, by ?? COPY_TEXTS.schedule, 'backup', message);
    await transaction.flush();
  });
}

/** Removes the backups of this machine that are older than the rule keeps; those that somebody asked for stay. */
async function prune({ store: root, folder }: MakingTools): Promise<void> {
  const store = root.fork();
  const { keep, zone } = await readBackupRule(store);
  const made = (await listBackupRows(store, MOST_ROWS)).filter(
    ({ state, by, machine }) => state === 'done' && by === null && machine === folder.machine,
  );
  const kept = keptCopies(
    made.map(({ madeAt }) => madeAt!),
    keep,
    zone,
  );
  for (const [place, { id, file }] of made.entries()) {
    if (kept.has(place)) continue;
    if (file !== null) await folder.remove(file);
    await removeBackupRow(store, id);
  }
}
