import { existsSync } from 'node:fs';
import type { Command } from 'commander';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { CliError, EXIT } from '../../errors.js';
import { colour, printJson, printProse } from '../../output.js';
import { BACKUP } from '../../texts/backup.js';
import { PLAN } from '../../texts/plan.js';
import { say } from '../../texts/say.js';
import { openFile, withKey, type KeyOption } from './backup-file.js';
import { follow, momentOf, reportLost, uploadOf } from './uploaded.js';

interface BringOptions extends CommonOptions, KeyOption {
  readonly as?: string;
}

export function bringBack(group: Command): void {
  withKey(withCommon(group.command('bring-back')))
    .description(BACKUP.bringBack)
    .argument('<file>', BACKUP.orNumber)
    .argument('<site>', BACKUP.bringBackSite)
    .option('--as <key>', BACKUP.as)
    .action(async (file: string, site: string, { as, ...options }: BringOptions) => {
      const query = as === undefined ? { site } : { site, as };
      const client = clientFor(options);
      const backup = numberOf(file);
      const bytes = backup === undefined ? await openFile(file, options) : undefined;
      const done = await follow((signal) =>
        bytes
          ? client.upload('bringSiteBack', { query }, uploadOf(bytes), signal)
          : client.stream('bringSiteBackFrom', { params: { backup: backup! }, query }, signal),
      );
      if (!done) throw new CliError(PLAN.serviceBrokeOff, EXIT.failed);
      if (options.json) {
        printJson(done);
        return;
      }
      printProse(colour.green(say(BACKUP.broughtBack, { ...done, at: momentOf(done) })));
      if (done.takenHosts.length > 0)
        printProse(colour.yellow(say(BACKUP.takenHosts, { hosts: done.takenHosts.join(', ') })));
      reportLost(done.lost);
      printProse(BACKUP.notBrought);
    });
}

/** The number of a backup in the folder, where it is one and there is no file of that name. */
function numberOf(text: string): number | undefined {
  return /^[1-9]\d{0,8}$/.test(text) && !existsSync(text) ? Number(text) : undefined;
}
