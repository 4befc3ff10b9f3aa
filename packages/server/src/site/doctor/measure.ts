import type { Measured } from '../../metrics.js';
import { listBackupRows } from '../../storage/copies/backup-rows.js';
import { processCounts } from '../../storage/installation.js';
import type { Store } from '../../storage/store.js';
import { STUCK_S } from './stuck.js';

const BACKUPS_LOOKED_AT = 50;

/** How the installation does, in numbers. */
export async function measure(store: Store): Promise<Measured> {
  const [counts, rows] = [
    await processCounts(store, STUCK_S),
    await listBackupRows(store, BACKUPS_LOOKED_AT),
  ];
  const last = rows.find(({ state }) => state === 'done')?.madeAt;
  return {
    ...counts,
    backupAgeSeconds: last ? (Date.now() - last.getTime()) / 1_000 : undefined,
    hasBackupFailed: rows[0]?.state === 'failed',
  };
}
