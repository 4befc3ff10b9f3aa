import type { HandlersOf } from '../http/context.js';
import { bytesOf } from '../http/bytes.js';
import type { BackupFolder } from '../site/copies/backup-folder.js';
import {
  askBackup,
  fetchBackup,
  listBackups,
  readableFile,
  removeBackup,
  setBackupRule,
  showBackup,
} from '../site/copies/kept-backups.js';
import { bringSiteBack, restoreBackup } from '../site/copies/restore-backup.js';
import { takeBackup, type Copying } from '../site/copies/take-backup.js';

/** Copies of the whole installation. */
export function backupHandlers(
  copying: Copying,
  folder: BackupFolder,
): HandlersOf<
  | 'takeBackup'
  | 'restoreBackup'
  | 'bringSiteBack'
  | 'listBackups'
  | 'setBackupRule'
  | 'askForBackup'
  | 'showBackup'
  | 'fetchBackup'
  | 'bringSiteBackFrom'
  | 'removeBackup'
> {
  return {
    takeBackup({ query }, context) {
      context.response.attachment('pragmatica.tar');
      return takeBackup(copying, { isWithKey: query.withoutKey === undefined }, context);
    },

    restoreBackup({ query }, context) {
      const isQuiet = query.quiet !== undefined;
      return restoreBackup(copying, bytesOf(context.request), { isQuiet }, context);
    },

    bringSiteBack({ query: { site, as = site } }, context) {
      return bringSiteBack(copying, bytesOf(context.request), { site, as }, context);
    },

    async listBackups(_input, { store }) {
      return { data: await listBackups(store, folder) };
    },

    async setBackupRule({ body }, context) {
      return { data: await setBackupRule(folder, body, context) };
    },

    async askForBackup(_input, context) {
      return { data: await askBackup(folder, context) };
    },

    async showBackup({ params: { backup } }, { store }) {
      return { data: await showBackup(store, folder, backup) };
    },

    async *fetchBackup({ params: { backup } }, context) {
      const { file, bytes } = await fetchBackup(folder, backup, context);
      context.response.attachment(file);
      yield* bytes;
    },

    async *bringSiteBackFrom({ params: { backup }, query: { site, as = site } }, context) {
      const bytes = await readableFile(context.store, folder, backup);
      yield* bringSiteBack(copying, bytes, { site, as }, context);
    },

    async removeBackup({ params: { backup } }, context) {
      await removeBackup(folder, backup, context);
      return { data: undefined };
    },
  };
}
