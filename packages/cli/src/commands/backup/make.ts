import { existsSync } from 'node:fs';
import { Option, type Command } from 'commander';
import { assertRecipients, packBackup, type BackupManifest, type WrittenBytes } from '@pragmatica/backup';
import { byteWords } from '@pragmatica/core';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { CliError } from '../../errors.js';
import { colour, note, printJson, printProse, Progress } from '../../output.js';
import { readTextFile } from '../../text-file.js';
import { BACKUP } from '../../texts/backup.js';
import { LOCALE, say } from '../../texts/say.js';
import { collect, writeFile } from './backup-file.js';
import { watched, type Watching } from './watched.js';

interface MakeOptions extends CommonOptions {
  readonly recipient?: string[];
  readonly recipientsFile?: string;
  readonly withoutKey?: boolean;
  readonly overwrite?: boolean;
}

export function make(group: Command): void {
  withCommon(group.command('make', { isDefault: true }))
    .description(BACKUP.make)
    .argument('[file]', BACKUP.file)
    .addOption(new Option('--recipient <key>', BACKUP.recipient).argParser(collect))
    .option('--recipients-file <file>', BACKUP.recipientsFile)
    .option('--without-key', BACKUP.withoutKey)
    .option('--overwrite', BACKUP.overwrite)
    .action(async (named: string | undefined, options: MakeOptions) => {
      const recipients = recipientsOf(options);
      assertRecipients(recipients);
      if (named !== undefined && named !== '-' && !options.overwrite && existsSync(named))
        throw new CliError(say(BACKUP.thereIsFile, { file: named }));
      const file = named ?? freeName(recipients.length > 0);
      const { manifest, written } = await take(options, recipients, file);
      report(manifest, written, file, recipients.length > 0, options);
    });
}

async function take(
  options: MakeOptions,
  recipients: readonly string[],
  file: string,
): Promise<{ readonly manifest: BackupManifest; readonly written: WrittenBytes }> {
  const abort = new AbortController();
  const stop = (): void => abort.abort();
  process.once('SIGINT', stop);
  const progress = new Progress();
  const watching: Watching = {
    onRows: (table, done) => {
      const rows = watching.manifest!.tables.find(({ name }) => name === table)!.rows;
      progress.update(say(BACKUP.making, { table, done, rows }));
    },
  };
  try {
    const query = options.withoutKey ? { withoutKey: '1' as const } : {};
    const body = await clientFor(options).download('takeBackup', { query }, abort.signal);
    const bytes = watched(body, watching);
    const written = await writeFile(file, await packBackup(bytes, recipients));
    return { manifest: watching.manifest!, written };
  } finally {
    progress.end();
    process.off('SIGINT', stop);
  }
}

function recipientsOf({ recipient = [], recipientsFile }: MakeOptions): string[] {
  if (recipientsFile === undefined) return recipient;
  const keys = readTextFile(recipientsFile)
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '' && !line.startsWith('#'));
  if (keys.length === 0) throw new CliError(say(BACKUP.noRecipientInFile, { file: recipientsFile }));
  return [...recipient, ...keys];
}

/** Named after the moment; where there is such a file, with a number. */
function freeName(isSealed: boolean): string {
  const moment = new Date().toISOString().slice(0, 16).replace('T', '-').replace(':', '');
  const ending = isSealed ? '.tar.gz.age' : '.tar.gz';
  for (let number = 1; ; number++) {
    const file = `pragmatica-${moment}${number === 1 ? '' : `-${number}`}${ending}`;
    if (!existsSync(file)) return file;
  }
}

function report(
  manifest: BackupManifest,
  { bytes, sha256 }: WrittenBytes,
  file: string,
  isSealed: boolean,
  { json }: CommonOptions,
): void {
  const { id, madeAt, version, sites, tables, hasKey } = manifest;
  const rows = tables.reduce((all, table) => all + table.rows, 0);
  if (json && file !== '-') {
    const keys = sites.map(({ key }) => key);
    printJson({
      file,
      bytes,
      sha256,
      isEncrypted: isSealed,
      id,
      madeAt,
      version,
      sites: keys,
      rows,
      hasKey,
    });
    return;
  }
  const line = say(BACKUP.made, {
    sites: sites.length,
    rows,
    file,
    size: byteWords(bytes, LOCALE),
    sum: sha256,
  });
  const advice = isSealed ? BACKUP.isSealed : say(BACKUP.isPlain, { hasKey: hasKey ? 'yes' : 'no' });
  // Standard output is the backup itself then.
  const tell = file === '-' ? note : printProse;
  tell(colour.green(line));
  tell(isSealed ? advice : colour.yellow(advice));
}
