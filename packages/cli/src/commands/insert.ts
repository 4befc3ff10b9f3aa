import { folderDelivery, undecided } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { insertFolder, type FolderReport } from '../insert-folder/insert-folder.js';
import { readSet } from '../set-file.js';
import { Progress, colour, note, print, printJson, table } from '../output.js';
import { INSERT } from '../texts/insert.js';
import { say } from '../texts/say.js';

interface Options {
  readonly out: string;
  readonly set: string;
  readonly environment: 'staging' | 'live';
  readonly cleanPaths?: boolean;
  readonly json?: boolean;
}

/** How many files are named where a part found no place. */
const NAMED_FILES = 5;

export function insertCommand(program: Command): void {
  program
    .command('insert <folder>')
    .description(INSERT.putSnippetSet)
    .requiredOption('--out <folder>', INSERT.whereNewFiles)
    .requiredOption('--set <file>', INSERT.snippetSetPragmatica)
    .addOption(
      new Option('--environment <name>', INSERT.whoseSnippets).choices(['live', 'staging']).default('live'),
    )
    .option('--clean-paths', INSERT.pagesAskedWithout)
    .option('--json', INSERT.printResultJson)
    .addHelpText('after', INSERT.indexHtmlPage)
    .action((folder: string, options: Options) => {
      const snapshot = readSet(options.set);
      const progress = new Progress();
      const result = insertFolder({
        from: folder,
        to: options.out,
        snapshot,
        load: { environment: options.environment, device: 'desktop', consent: [], at: Date.now() },
        hasCleanPaths: options.cleanPaths ?? false,
        onFile: (done, file) => progress.update(`${done}  ${file}`),
      });
      progress.end();
      if (options.json) printJson(result);
      else report(result, options.out);
      for (const { message } of undecided(snapshot, folderDelivery)) note(message);
    });
}

/** What became of one part: in how many pages it is, and by message, in which files it is not or stands elsewhere. */
interface PartReport {
  placed: number;
  readonly leftOut: Map<string, string[]>;
  readonly elsewhere: Map<string, string[]>;
}

function report(result: FolderReport, out: string): void {
  const { pages, copied, links } = result;
  print(say(INSERT.wrotePageOut, { count: pages.length, out, copied, links }));
  const parts = new Map<string, PartReport>();
  for (const page of pages) {
    for (const outcome of page.outcomes) {
      const entry = parts.get(outcome.key) ?? {
        placed: 0,
        leftOut: new Map<string, string[]>(),
        elsewhere: new Map<string, string[]>(),
      };
      parts.set(outcome.key, entry);
      if (outcome.inserted) entry.placed++;
      const about = outcome.inserted ? entry.elsewhere : entry.leftOut;
      if (outcome.message !== undefined)
        about.set(outcome.message, [...(about.get(outcome.message) ?? []), page.file]);
    }
  }
  if (parts.size === 0) {
    print(INSERT.noSnippetSet);
    return;
  }
  const rows = [...parts].map(([key, { placed, leftOut }]) => {
    const missed = [...leftOut.values()].reduce((sum, files) => sum + files.length, 0);
    return [colour.bold(key), `${placed}`, missed > 0 ? colour.yellow(String(missed)) : '0'];
  });
  print(table(['PART', INSERT.putInto, INSERT.leftOut], rows));
  for (const [key, { leftOut, elsewhere }] of parts) {
    for (const [message, files] of leftOut) tellOf(key, INSERT.wasLeftOut, message, files);
    for (const [message, files] of elsewhere) tellOf(key, INSERT.standsElsewhereThan, message, files);
  }
}

function tellOf(key: string, what: string, message: string, files: readonly string[]): void {
  const more = files.length > NAMED_FILES ? ` and ${files.length - NAMED_FILES} more` : '';
  const named = colour.dim(files.slice(0, NAMED_FILES).join('  ') + more);
  print(`\n${colour.bold(key)} ${what}\n  ${message}\n  ${named}`);
}
