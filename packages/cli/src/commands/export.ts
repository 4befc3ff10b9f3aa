import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import {
  compileLine,
  dateWords,
  dayAt,
  lineHours,
  lineName,
  lineTag,
  pointerFile,
  releaseFile,
  type EnvironmentName,
  type Snapshot,
} from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { siteFileText } from '@pragmatica/contract';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { colour, note, print, printJson } from '../output.js';
import { releaseSet } from '../release-set.js';
import { readSet } from '../set-file.js';
import { EXPORT } from '../texts/export.js';
import { FOLDER } from '../texts/folder.js';
import { say } from '../texts/say.js';

interface ExportOptions extends SiteOptions {
  readonly of?: string;
  readonly out?: string;
  readonly whole?: boolean;
  readonly schema?: boolean;
  readonly oneLine?: string;
  readonly set?: string;
  readonly address?: string;
  readonly environment?: EnvironmentName;
}

export function exportSet(program: Command): void {
  withSite(program.command('export'))
    .description(EXPORT.description)
    .option('--of <set>', EXPORT.ofSet)
    .addOption(new Option('--whole', FOLDER.whole).conflicts(['of', 'set', 'oneLine']))
    .addOption(new Option('--schema', FOLDER.schema).conflicts(['of', 'set', 'oneLine', 'whole']))
    .option('--out <file>', EXPORT.out)
    .addOption(new Option('--one-line <folder>', EXPORT.oneLine).conflicts('out'))
    .option('--address <address>', EXPORT.address)
    .option('--set <file>', EXPORT.fromSet)
    .addOption(new Option('--environment <name>', EXPORT.environment).choices(['live', 'staging']))
    .addHelpText('after', EXPORT.examples)
    .action(async (options: ExportOptions) => {
      if (options.set !== undefined && options.of !== undefined) throw new CliError(EXPORT.setOrService);
      if (options.schema) {
        printJson((await clientFor(options).call('showSiteSchema', {})).data);
        return;
      }
      if (options.whole) {
        await exportWhole(options);
        return;
      }
      const snapshot =
        options.set === undefined ? await releaseSet(options, options.of) : readSet(options.set);
      if (options.oneLine !== undefined) {
        writeLine(snapshot, options.oneLine, options);
        return;
      }
      const text = JSON.stringify(snapshot, null, 2);
      if (options.out === undefined) print(text);
      else {
        writeFileSync(options.out, `${text}\n`);
        note(say(EXPORT.wrote, { count: snapshot.snippets.length, out: options.out }));
      }
    });
}

async function exportWhole(options: ExportOptions): Promise<void> {
  const client = clientFor(options);
  const { data } = await client.call('exportSite', { params: { site: await siteFor(client, options) } });
  const text = siteFileText(data);
  if (options.out === undefined) {
    process.stdout.write(text);
    return;
  }
  writeFileSync(options.out, text);
  note(say(FOLDER.wroteWhole, { out: options.out, releases: data.releases.length }));
}

/** So far opening hours are written down: files are not asked what time it is. */
const HOURS_AHEAD_MS = 400 * 24 * 60 * 60_000;

/** Writes the files of the one line; those of releases before stay, for who still has their pointer. */
function writeLine(snapshot: Snapshot, folder: string, options: ExportOptions): void {
  const environment = options.environment ?? (options.of === 'staging' ? 'staging' : 'live');
  const name = lineName(snapshot.site.key, environment);
  const compiled = compileLine(snapshot, environment);
  const release = releaseFile(name, compiled);
  const now = Date.now();
  const hours = lineHours(compiled, now, HOURS_AHEAD_MS);
  const pointer = pointerFile(name, release.digest, [0, 0, hours], release.digest);
  // The pointer last: it never leads to what is not there.
  for (const { path, text } of [release, pointer]) {
    const file = join(folder, path);
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, text);
  }
  const base = (options.address ?? EXPORT.addressHere).replace(/\/$/, '');
  const lines = { order: lineTag(base, name, 'order'), async: lineTag(base, name, 'async') };
  if (options.json) {
    printJson({ pointer: pointer.path, release: release.path, integrity: release.integrity, lines });
    return;
  }
  print(say(EXPORT.wroteLine, { pointer: pointer.path, release: release.path, folder }));
  print(`\n${EXPORT.paste}\n  ${colour.bold(lines.order)}`);
  print(`${EXPORT.pasteAsync}\n  ${lines.async}\n`);
  note(say(EXPORT.upload, { pointer: pointer.path, release: release.path }));
  if (compiled.hours.length > 0)
    note(say(EXPORT.hoursUntil, { date: dateWords(dayAt(now + HOURS_AHEAD_MS, compiled.timeZone)) }));
}
