export { BackupError, type BackupErrorCode } from './backup-error.js';
export { BACKUP_FORM, type BackupManifest, type TableOfBackup } from './manifest.js';
export { readBackup, type BackupItem } from './read-backup.js';
export {
  assertRecipients,
  keysInFile,
  newBackupKey,
  openBackup,
  packBackup,
  type BackupKey,
} from './seal-backup.js';
export { PART_ENDING, writeTo, writeWhole, type WrittenBytes } from './write-whole.js';
export { writeBackup, type TableBytes } from './write-backup.js';
