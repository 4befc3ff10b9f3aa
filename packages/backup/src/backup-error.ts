import { formatMessage, type Params } from '@pragmatica/core';
import { BACKUP_TEXTS } from './texts/backup-texts.js';

export type BackupErrorCode = Exclude<
  keyof typeof BACKUP_TEXTS,
  'start' | 'table' | 'packing' | 'encryption'
>;

/** A file that is no backup, or not one that can be used. The message says what is wrong with it. */
export class BackupError extends Error {
  readonly code: BackupErrorCode;

  constructor(code: BackupErrorCode, params: Params = {}, cause?: unknown) {
    super(formatMessage(BACKUP_TEXTS[code], params), { cause });
    this.name = 'BackupError';
    this.code = code;
  }
}

/** The words for a place in the file. */
export function placeWords(table?: string): string {
  return table === undefined ? BACKUP_TEXTS.start : formatMessage(BACKUP_TEXTS.table, { table });
}
