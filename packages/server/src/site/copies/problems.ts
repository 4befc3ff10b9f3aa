import { BackupError } from '@pragmatica/backup';
import { ServiceError } from '../../errors.js';
import { NoSuchSite, SiteExists } from '../../storage/copies/bring-site.js';
import { BackupUnderWay } from '../../storage/copies/dump.js';
import { NewerBackup, UnfitRows } from '../../storage/copies/load.js';
import { NotEmpty } from '../../storage/copies/put-back.js';
import { VERSION } from '../../version.js';

/** What goes wrong with a backup, as whoever asked is told it; anything else as it was. */
export function copyProblem(error: unknown): unknown {
  if (error instanceof BackupError)
    return new ServiceError('backup-unreadable', { why: error.message }, {}, error);
  if (error instanceof NewerBackup)
    return new ServiceError('backup-newer', { version: error.version, here: VERSION }, {}, error);
  if (error instanceof UnfitRows)
    return new ServiceError('backup-rows-unfit', { table: error.table }, {}, error);
  if (error instanceof NotEmpty) return new ServiceError('restore-not-empty', {}, {}, error);
  if (error instanceof BackupUnderWay) return new ServiceError('backup-under-way', {}, {}, error);
  if (error instanceof SiteExists)
    return new ServiceError('brought-site-exists', { site: error.key }, {}, error);
  if (error instanceof NoSuchSite)
    return new ServiceError('no-site-in-backup', { site: error.key, known: error.known }, {}, error);
  return error;
}
