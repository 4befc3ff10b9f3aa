import type { Command } from 'commander';
import { newBackupKey } from '@pragmatica/backup';
import { note, print } from '../../output.js';
import { BACKUP } from '../../texts/backup.js';
import { say } from '../../texts/say.js';

/** A key as the tools of age write and read it. */
export function newKey(group: Command): void {
  group
    .command('new-key')
    .description(BACKUP.newKey)
    .action(async () => {
      const { key, recipient } = await newBackupKey();
      print(say(BACKUP.newKeyFile, { at: new Date().toISOString(), recipient, key }));
      if (!process.stdout.isTTY) note(say(BACKUP.newKeyNote, { recipient }));
    });
}
