import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { importChanges, type ImportOptions } from '../import-changes.js';
import { print, printJson } from '../output.js';
import { releaseSet } from '../release-set.js';
import { SITE_FILE, isOfSet, readFolder, writeFolder } from '../site-folder/folder.js';
import { FOLDER } from '../texts/folder.js';
import { say } from '../texts/say.js';

/** A site as code: its set as files in a folder. */
export function pull(program: Command): void {
  withSite(program.command('pull <dir>'))
    .description(FOLDER.pull)
    .option('--of <set>', FOLDER.ofSet, 'draft')
    .option('--dry-run', FOLDER.dryRun)
    .addHelpText('after', FOLDER.pullExamples)
    .action(
      async (dir: string, options: SiteOptions & { readonly of: string; readonly dryRun?: boolean }) => {
        const there = existsSync(dir) ? readFiles(dir) : new Map<string, string>();
        const isForeign = existsSync(dir) && readdirSync(dir).some((name) => !name.startsWith('.'));
        if (!there.has(SITE_FILE) && isForeign) throw new CliError(say(FOLDER.notEmpty, { dir }));
        const snapshot = await releaseSet(options, options.of);
        const files = writeFolder(snapshot);
        const changed = [...files].filter(([path, text]) => there.get(path) !== text);
        const gone = [...there.keys()].filter((path) => !files.has(path));
        if (options.dryRun !== true) {
          for (const [path, text] of changed) {
            mkdirSync(dirname(join(dir, path)), { recursive: true });
            writeFileSync(join(dir, path), text);
          }
          for (const path of gone) rmSync(join(dir, path));
        }
        const written = changed.map(([path]) => path);
        if (options.json) {
          printJson({ dir, written, removed: gone });
          return;
        }
        if (options.dryRun === true) {
          for (const path of written) print(say(FOLDER.wouldWrite, { path }));
          for (const path of gone) print(say(FOLDER.wouldRemove, { path }));
          print(FOLDER.onlyShown);
          return;
        }
        const { length: snippets } = snapshot.snippets;
        print(say(FOLDER.wrote, { written: written.length, removed: gone.length, dir, snippets }));
      },
    );
}

export function push(program: Command): void {
  withSite(program.command('push <dir>'))
    .description(FOLDER.push)
    .option('--dry-run', FOLDER.dryRun)
    .option('--remove', FOLDER.remove)
    .option('--force', FOLDER.force)
    .option('--publish <message>', FOLDER.publish)
    .addHelpText('after', FOLDER.pushExamples)
    .action(async (dir: string, options: SiteOptions & ImportOptions & { readonly publish?: string }) => {
      if (!existsSync(dir) || !statSync(dir).isDirectory()) throw new CliError(say(FOLDER.noFolder, { dir }));
      const set = readFolder(readFiles(dir));
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const isDone = await importChanges(client, site, set, options);
      if (!isDone || options.publish === undefined) return;
      const { etag } = await client.call('showDraft', { params: { site } });
      const { data } = await client.call('publish', {
        params: { site },
        ifMatch: etag,
        body: { message: options.publish },
      });
      if (!options.json) print(say(FOLDER.published, { number: data.number }));
    });
}

/** The files of a folder that belong to a set, by path. */
function readFiles(dir: string): ReadonlyMap<string, string> {
  const folder = join(dir, 'snippets');
  const snippets = existsSync(folder) ? readdirSync(folder).map((name) => `snippets/${name}`) : [];
  const paths = [SITE_FILE, ...snippets].filter((path) => isOfSet(path) && existsSync(join(dir, path)));
  return new Map(paths.map((path) => [path, readFileSync(join(dir, path), 'utf8')]));
}
