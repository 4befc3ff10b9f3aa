import type { Command } from 'commander';
import { readBackup, type BackupManifest } from '@pragmatica/backup';
import { colour, print, printJson, printProse, Progress, table, when } from '../../output.js';
import { BACKUP } from '../../texts/backup.js';
import { COMMON } from '../../texts/common.js';
import { openFile, withKey, type KeyOption } from './backup-file.js';

interface CheckOptions extends KeyOption {
  readonly json?: boolean;
}

/** Needs no service. */
export function check(group: Command): void {
  withKey(group.command('check'))
    .description(BACKUP.check)
    .argument('<file>', BACKUP.checkFile)
    .option('--json', COMMON.printResultJson)
    .action(async (file: string, options: CheckOptions) => {
      const manifest = await readWhole(await openFile(file, options));
      if (options.json) printJson(manifest);
      else report(manifest);
    });
}

async function readWhole(bytes: AsyncIterable<Uint8Array>): Promise<BackupManifest> {
  const progress = new Progress();
  let manifest: BackupManifest | undefined;
  try {
    for await (const item of readBackup(bytes)) {
      if (item.type === 'manifest') manifest = item.manifest;
      else if (item.type === 'rows') progress.update(item.table.name);
    }
  } finally {
    progress.end();
  }
  return manifest!;
}

function report({ madeAt, version, sites, tables, trail, hasKey }: BackupManifest): void {
  printProse(colour.green(BACKUP.isWhole));
  const rows = tables.reduce((all, one) => all + one.rows, 0);
  print(
    table(
      ['', ''],
      [
        [BACKUP.rowMade, when(madeAt)],
        [BACKUP.rowVersion, version],
        [BACKUP.rowSites, sites.length === 0 ? BACKUP.noSites : sites.map(({ key }) => key).join(', ')],
        [BACKUP.rowRows, String(rows)],
        [BACKUP.rowKey, hasKey ? BACKUP.keyIsThere : BACKUP.keyIsNot],
        [BACKUP.rowTrail, `${trail.number}:${trail.hash}`],
      ],
    ),
  );
}
