import { folderDelivery, snapshotDigest, undecided, type Snapshot } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { withSite, type SiteOptions } from '../context.js';
import { insertFolder, type FolderReport } from '../insert-folder/insert-folder.js';
import { pageDifference } from '../insert-folder/page-difference.js';
import { watchFolder } from '../insert-folder/watch-folder.js';
import { Progress, colour, note, print, printJson, table } from '../output.js';
import { releaseSet } from '../release-set.js';
import { readSet } from '../set-file.js';
import { EXPORT } from '../texts/export.js';
import { INSERT } from '../texts/insert.js';
import { say } from '../texts/say.js';

interface Options extends SiteOptions {
  readonly out: string;
  readonly set?: string;
  readonly of?: string;
  readonly environment: 'staging' | 'live';
  readonly cleanPaths?: boolean;
  readonly dryRun?: boolean;
  readonly diff?: boolean;
  readonly watch?: boolean;
}

/** How many files are named where a part found no place, and of those that would change. */
const NAMED_FILES = 5;
const NAMED_CHANGES = 20;
/** While a folder is watched, so often it is asked what is published. */
const ASK_EVERY_MS = 5_000;

export function insertCommand(program: Command): void {
  withSite(program.command('insert <folder>'))
    .description(INSERT.putSnippetSet)
    .requiredOption('--out <folder>', INSERT.whereNewFiles)
    .option('--set <file>', INSERT.snippetSetPragmatica)
    .addOption(new Option('--of <set>', EXPORT.ofSet).conflicts('set'))
    .addOption(
      new Option('--environment <name>', INSERT.whoseSnippets).choices(['live', 'staging']).default('live'),
    )
    .option('--clean-paths', INSERT.pagesAskedWithout)
    .addOption(new Option('--dry-run', INSERT.dryRun).conflicts('watch'))
    .addOption(new Option('--diff', INSERT.diff).conflicts('watch').implies({ dryRun: true }))
    .option('--watch', INSERT.watch)
    .addHelpText('after', INSERT.indexHtmlPage)
    .action(async (folder: string, options: Options) => {
      let snapshot = await setOf(options);
      await write(folder, snapshot, options, false);
      if (!options.watch) return;
      note(INSERT.watching);
      const stop = new AbortController();
      process.once('SIGINT', () => stop.abort());
      process.once('SIGTERM', () => stop.abort());
      const again = (): Promise<void> => write(folder, snapshot, options, true);
      const asked = setInterval(() => {
        void (async () => {
          // While the service is away, the pages stay as they are.
          const now = await setOf(options).catch(() => snapshot);
          if (snapshotDigest(now) === snapshotDigest(snapshot)) return;
          snapshot = now;
          await again();
        })();
      }, ASK_EVERY_MS);
      await watchFolder(folder, again, stop.signal);
      clearInterval(asked);
    });
}

async function setOf({ set, of, environment, ...options }: Options): Promise<Snapshot> {
  return set === undefined ? releaseSet(options, of ?? environment) : readSet(set);
}

async function write(folder: string, snapshot: Snapshot, options: Options, isAgain: boolean): Promise<void> {
  const progress = new Progress();
  let result: FolderReport;
  try {
    result = await insertFolder({
      from: folder,
      to: options.out,
      snapshot,
      load: { environment: options.environment, device: 'desktop', consent: [], at: Date.now() },
      hasCleanPaths: options.cleanPaths ?? false,
      isDry: options.dryRun ?? false,
      onFile: (done, file) => progress.update(`${done}  ${file}`),
      ...(options.diff && !options.json ? { onDifference: tellDifference } : {}),
    });
  } finally {
    progress.end();
  }
  if (options.json) printJson(result);
  else if (isAgain) print(say(INSERT.wroteAgain, countsOf(result)));
  else if (options.dryRun) tellChanges(result);
  else report(result, options.out);
  if (isAgain) return;
  for (const { message } of undecided(snapshot, folderDelivery)) note(message);
}

function countsOf({ written, removed }: FolderReport): { written: number; removed: number } {
  return { written: written.length, removed: removed.length };
}

/** A page's lines that would change. */
function tellDifference(file: string, before: Uint8Array, after: Uint8Array): void {
  print(colour.bold(file));
  const lines = pageDifference(before, after);
  if (!lines) print(INSERT.tooDifferent);
  for (const line of lines ?? []) {
    const paint = line.startsWith('+') ? colour.green : line.startsWith('-') ? colour.red : colour.dim;
    print(paint(`  ${line}`));
  }
}

/** What a run would change, file by file. */
function tellChanges(result: FolderReport): void {
  const { written, removed, pages } = result;
  print(say(INSERT.wouldWrite, countsOf(result)));
  const parts = new Map(
    pages.map(({ file, outcomes }) => [file, outcomes.filter((one) => one.inserted).length]),
  );
  for (const file of written.slice(0, NAMED_CHANGES)) {
    const count = parts.get(file);
    const words = count === undefined ? '' : colour.dim(say(INSERT.partsPutIn, { count }));
    print(`  ${colour.green('+')} ${file}  ${words}`);
  }
  for (const file of removed.slice(0, NAMED_CHANGES)) print(`  ${colour.red('−')} ${file}`);
  const more = Math.max(0, written.length - NAMED_CHANGES) + Math.max(0, removed.length - NAMED_CHANGES);
  if (more > 0) print(say(INSERT.moreFiles, { more }));
}

/** What became of one part: in how many pages it is, and by message, in which files it is not or stands elsewhere. */
interface PartReport {
  placed: number;
  readonly leftOut: Map<string, string[]>;
  readonly elsewhere: Map<string, string[]>;
}

function report(result: FolderReport, out: string): void {
  const { pages, copied, links } = result;
  const written = new Set(result.written);
  const kept = pages.filter(({ file }) => !written.has(file)).length;
  print(say(INSERT.wrotePageOut, { count: pages.length - kept, out, copied, links, kept }));
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
