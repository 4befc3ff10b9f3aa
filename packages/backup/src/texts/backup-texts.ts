import { catalogue } from '@pragmatica/core';

/** What is said of a file that cannot be read as a backup. */
export const BACKUP_TEXTS = catalogue('backup', {
  notBackup: 'This is not a backup of Pragmatica.',
  newerFormat:
    'This backup is of form {version}, and this Pragmatica reads forms up to {known}. Update Pragmatica, then try again.',
  cutOff: 'The backup ends too early, in {place}: it was not copied to its end.',
  damaged: 'The backup is damaged: {place} is not what was written.',
  start: 'its start',
  table: 'the table {table}',
  packing: 'its compressed data',
  encryption: 'its encrypted data',
  needsKey: 'The backup is encrypted. Give the key that opens it: --key FILE.',
  wrongKey: 'None of these keys opens the backup: it was encrypted for somebody else.',
  notRecipient: '“{text}” is no recipient: one begins with age1, as “pragmatica backup new-key” prints it.',
  noKeyInFile: 'There is no key in this file: a line with one begins with AGE-SECRET-KEY-.',
});
