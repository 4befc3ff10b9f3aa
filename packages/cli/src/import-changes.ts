import type { ApiClient, ImportInput, ImportedResource } from '@pragmatica/contract';
import type { Snapshot } from '@pragmatica/core';
import { EXIT } from './errors.js';
import { colour, note, print, printJson } from './output.js';
import { toText } from './report/table.js';
import { FOLDER } from './texts/folder.js';
import { say } from './texts/say.js';

export interface ImportOptions {
  readonly dryRun?: boolean;
  readonly remove?: boolean;
  readonly force?: boolean;
  readonly json?: boolean;
}

/**
 * Shows what a set would change in a site's draft and what the checks find in it then, and brings it in, unless that is not wanted
 * or there are new errors.
 *
 * @returns whether the draft holds it now
 */
export async function importChanges(
  client: ApiClient,
  site: string,
  set: Snapshot,
  options: ImportOptions,
): Promise<boolean> {
  const { etag } = await client.call('showDraft', { params: { site } });
  const removes = options.remove ?? false;
  const ask = (preview: boolean) =>
    client.call('importSet', {
      params: { site },
      ifMatch: etag,
      body: { set: set as ImportInput['set'], removes, preview },
    });
  const { data: preview } = await ask(true);
  const errors = preview.found.filter(({ severity }) => severity === 'error');
  const isStopped = errors.length > 0 && options.force !== true;
  const isNothing = preview.changes.length === 0 && preview.code.length === 0;
  const isDone = options.dryRun !== true && !isStopped;
  const data = isDone ? (await ask(false)).data : preview;
  if (options.json) printJson(data);
  else {
    if (set.site.key !== site) note(say(FOLDER.otherSite, { of: set.site.key, site }));
    report(data, isNothing);
    if (isStopped && options.dryRun !== true) note(colour.red(say(FOLDER.stopped, { count: errors.length })));
    else if (!isDone) note(FOLDER.onlyShown);
    else if (!isNothing) note(say(FOLDER.done, { site }));
  }
  if (isStopped) process.exitCode = EXIT.found;
  return isDone;
}

function report({ changes, found, gone, kept, isDone }: ImportedResource, isNothing: boolean): void {
  if (isNothing) print(FOLDER.nothing);
  else print(say(FOLDER.changes, { count: changes.length }));
  for (const { message, visible } of changes)
    print(`  ${visible ? colour.yellow('•') : colour.dim('·')} ${message}`);
  if (found.length > 0) {
    print(`\n${say(FOLDER.found, { count: found.length })}`);
    print(toText({ open: found, isFixable: isDone }));
  }
  if (gone.length > 0) print(colour.green(say(FOLDER.gone, { count: gone.length })));
  if (kept.length > 0) note(say(FOLDER.kept, { names: kept.map(({ name }) => name), count: kept.length }));
}
