import { readBackup, type BackupManifest } from '@pragmatica/backup';
import type { Command } from 'commander';
import { askFirst } from '../../ask-first.js';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { CliError, EXIT } from '../../errors.js';
import { colour, printJson, printProse } from '../../output.js';
import { BACKUP } from '../../texts/backup.js';
import { PLAN } from '../../texts/plan.js';
import { say } from '../../texts/say.js';
import { openFile, withKey, type KeyOption } from './backup-file.js';
import { follow, momentOf, reportLost, uploadOf } from './uploaded.js';

interface RestoreOptions extends CommonOptions, KeyOption {
  readonly quiet?: boolean;
  readonly yes?: boolean;
}

export function restoreAll(group: Command): void {
  withKey(withCommon(group.command('restore')))
    .description(BACKUP.restore)
    .argument('<file>', BACKUP.checkFile)
    .option('--quiet', BACKUP.quiet)
    .option('--yes', BACKUP.yes)
    .action(async (file: string, options: RestoreOptions) => {
      const { server, quiet, yes } = options;
      // What somebody pipes in can be read once.
      if (file !== '-') {
        const manifest = await manifestOf(await openFile(file, options));
        const words = { server, at: momentOf(manifest), sites: manifest.sites.length };
        await askFirst({
          yes,
          message: say(BACKUP.reallyRestore, words),
          unasked: say(BACKUP.restoreUnasked, words),
          left: BACKUP.left,
        });
      }
      const query = quiet ? { quiet: '1' as const } : {};
      const client = clientFor(options);
      const bytes = await openFile(file, options);
      const done = await follow((signal) =>
        client.upload('restoreBackup', { query }, uploadOf(bytes), signal),
      );
      if (!done) throw new CliError(PLAN.serviceBrokeOff, EXIT.failed);
      if (options.json) {
        printJson(done);
        return;
      }
      printProse(colour.green(say(BACKUP.restored, { ...done, at: momentOf(done) })));
      if (!done.isTrailWhole) printProse(colour.red(BACKUP.trailBroken));
      reportLost(done.lost);
      printProse(BACKUP.tokensToo);
      printProse(BACKUP.signInAgain);
    });
}

async function manifestOf(bytes: AsyncIterable<Uint8Array>): Promise<BackupManifest> {
  for await (const item of readBackup(bytes)) if (item.type === 'manifest') return item.manifest;
  throw new CliError(BACKUP.left);
}
