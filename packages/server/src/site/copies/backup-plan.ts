import { nextRun } from '@pragmatica/core';
import {
  askForBackup,
  failForsakenBackups,
  moveBackupRule,
  openBackups,
  readBackupRule,
} from '../../storage/copies/backup-rows.js';
import type { Store } from '../../storage/store.js';
import { COPY_TEXTS } from '../../texts/copies.js';

/** Seconds without a word after which a worker is given up. */
const SILENT_S = 60;

/** Puts a backup in line where it is time; one that was missed while nobody worked is made once, late. */
export async function planBackup(root: Store): Promise<void> {
  const store = root.fork();
  await failForsakenBackups(store, SILENT_S, COPY_TEXTS.forsaken);
  await store.transactional(async (transaction) => {
    const { isOn, cron, zone, nextAt } = await readBackupRule(transaction, true);
    const now = new Date();
    if (!isOn || (nextAt !== null && nextAt > now)) return;
    const next = nextRun(cron, zone, now) ?? null;
    if (next === null && nextAt === null) return;
    await moveBackupRule(transaction, next);
    // The first time it only learns when that is.
    if (nextAt !== null && (await openBackups(transaction)) === 0) await askForBackup(transaction, null);
  });
}
