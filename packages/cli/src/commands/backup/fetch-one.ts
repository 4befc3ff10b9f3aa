import { existsSync } from 'node:fs';
import { byteWords } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { CliError, EXIT } from '../../errors.js';
import { colour, note, print, printJson } from '../../output.js';
import { BACKUP } from '../../texts/backup.js';
import { LOCALE, say } from '../../texts/say.js';
import { wholeNumber } from '../../whole-number.js';
import { writeFile } from './backup-file.js';

interface FetchOptions extends CommonOptions {
  readonly overwrite?: boolean;
}

export function fetchOne(group: Command): void {
  withCommon(group.command('fetch'))
    .description(BACKUP.fetch)
    .argument('<backup>', BACKUP.fetchId, wholeNumber)
    .argument('[file]', BACKUP.file)
    .addOption(new Option('--overwrite', BACKUP.overwrite))
    .action(async (backup: number, named: string | undefined, options: FetchOptions) => {
      const client = clientFor(options);
      const { items } = (await client.call('listBackups', {})).data;
      const row = items.find(({ id }) => id === backup);
      const file = named ?? row?.file ?? `${backup}.tar.gz`;
      if (file !== '-' && !options.overwrite && existsSync(file))
        throw new CliError(say(BACKUP.thereIsFile, { file }));
      const body = await client.download('fetchBackup', { params: { backup } });
      const { bytes, sha256 } = await writeFile(file, body as AsyncIterable<Uint8Array>);
      if (row?.sha256 != null && row.sha256 !== sha256)
        throw new CliError(say(BACKUP.wrongSum, { is: sha256, was: row.sha256 }), EXIT.failed);
      const line = say(BACKUP.fetched, { file, size: byteWords(bytes, LOCALE) });
      if (file === '-') note(line);
      else if (options.json) printJson({ file, bytes, sha256 });
      else print(colour.green(line));
    });
}
