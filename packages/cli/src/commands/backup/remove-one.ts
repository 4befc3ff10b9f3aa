import type { Command } from 'commander';
import { askFirst } from '../../ask-first.js';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { print } from '../../output.js';
import { BACKUP } from '../../texts/backup.js';
import { say } from '../../texts/say.js';
import { wholeNumber } from '../../whole-number.js';

interface RemoveOptions extends CommonOptions {
  readonly yes?: boolean;
}

export function removeOne(group: Command): void {
  withCommon(group.command('remove'))
    .description(BACKUP.remove)
    .argument('<backup>', BACKUP.fetchId, wholeNumber)
    .option('--yes', BACKUP.yes)
    .action(async (backup: number, { yes, ...options }: RemoveOptions) => {
      await askFirst({
        yes,
        message: say(BACKUP.removeAsk, { backup }),
        unasked: say(BACKUP.removeUnasked, { backup }),
        left: BACKUP.removeLeft,
      });
      await clientFor(options).call('removeBackup', { params: { backup } });
      print(BACKUP.removedOne);
    });
}
