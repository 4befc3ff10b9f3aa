import { setTimeout as pause } from 'node:timers/promises';
import type { ApiClient, KeptBackup } from '@pragmatica/contract';
import { byteWords } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { CliError, EXIT } from '../../errors.js';
import { colour, print, printJson, Progress } from '../../output.js';
import { BACKUP } from '../../texts/backup.js';
import { LOCALE, say } from '../../texts/say.js';

const EVERY_MS = 500;

export function now(group: Command): void {
  withCommon(group.command('now'))
    .description(BACKUP.now)
    .action(async (options: CommonOptions) => {
      const client = clientFor(options);
      const asked = (await client.call('askForBackup', {})).data;
      const made = await ended(client, asked);
      if (made.state === 'failed')
        throw new CliError(say(BACKUP.nowFailed, { problem: made.problem ?? '' }), EXIT.failed);
      const { file, machine, bytes } = made;
      if (options.json) printJson(made);
      else
        print(
          colour.green(
            say(BACKUP.nowDone, {
              file: file ?? '',
              machine: machine ?? '',
              size: byteWords(bytes ?? 0, LOCALE),
            }),
          ),
        );
    });
}

/** Follows it to its end; Ctrl-C cancels it. */
async function ended(client: ApiClient, { id }: KeptBackup): Promise<KeptBackup> {
  const progress = new Progress();
  const cancel = (): void =>
    void client.call('removeBackup', { params: { backup: id } }).catch(() => undefined);
  process.once('SIGINT', cancel);
  try {
    for (;;) {
      const { items } = (await client.call('listBackups', {})).data;
      const row = items.find((one) => one.id === id);
      if (!row) throw new CliError(BACKUP.nowGone, EXIT.failed);
      if (row.state === 'done' || row.state === 'failed') return row;
      if (row.allRows !== null)
        progress.update(say(BACKUP.nowProgress, { done: row.doneRows, rows: row.allRows }));
      await pause(EVERY_MS);
    }
  } finally {
    progress.end();
    process.off('SIGINT', cancel);
  }
}
