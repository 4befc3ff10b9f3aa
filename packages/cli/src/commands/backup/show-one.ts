import type { Command } from 'commander';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { print, printJson, table, when } from '../../output.js';
import { BACKUP } from '../../texts/backup.js';
import { wholeNumber } from '../../whole-number.js';

export function showOne(group: Command): void {
  withCommon(group.command('show'))
    .description(BACKUP.show)
    .argument('<backup>', BACKUP.fetchId, wholeNumber)
    .action(async (backup: number, options: CommonOptions) => {
      const { data } = await clientFor(options).call('showBackup', { params: { backup } });
      const { madeAt, version, rows, sites } = data;
      if (options.json) printJson(data);
      else
        print(
          table(
            ['', ''],
            [
              [BACKUP.rowMade, when(madeAt)],
              [BACKUP.rowVersion, version],
              [BACKUP.rowRows, String(rows)],
              [BACKUP.rowSites, sites.length === 0 ? BACKUP.noSites : sites.map(({ key }) => key)],
            ],
          ),
        );
    });
}
