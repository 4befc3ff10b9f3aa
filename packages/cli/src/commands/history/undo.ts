import type { ApiClient, Undone } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../../context.js';
import { CliError, EXIT } from '../../errors.js';
import { colour, note, print, printJson, printProse, table, when } from '../../output.js';
import { HISTORY } from '../../texts/history.js';
import { say } from '../../texts/say.js';
import { wholeNumber } from '../../whole-number.js';

type Choice = 'now' | 'before';

interface UndoOptions extends SiteOptions {
  readonly snippet?: readonly string[];
  readonly choose?: readonly string[];
  readonly preview?: boolean;
}

const collect = (typed: string, before?: readonly string[]): readonly string[] => [...(before ?? []), typed];

/** Takes changes back out of a draft. */
export function undo(group: Command): void {
  withSite(group.command('undo <id>'))
    .description(HISTORY.undo)
    .option('--snippet <snippet>', HISTORY.onlySnippet, collect)
    .option('--choose <now|before>', HISTORY.choose, collect)
    .option('--preview', HISTORY.preview)
    .action(undoOne);
  withSite(group.command('removed'))
    .description(HISTORY.removedList)
    .action(async (options: SiteOptions) => {
      const client = clientFor(options);
      const items = await removedOf(client, await siteFor(client, options));
      if (options.json) printJson(items);
      else if (items.length === 0) print(HISTORY.noneRemoved);
      else {
        const { headSnippet, headName, headWhen, headBy } = HISTORY;
        const rows = items.map(({ key, name, at, by }) => [key, name, when(at), by]);
        print(table([headSnippet, headName, headWhen, headBy], rows));
      }
    });
  withSite(group.command('bring-back <snippet>'))
    .description(HISTORY.bringBack)
    .action(async (snippet: string, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const removed = (await removedOf(client, site)).find(({ key }) => key === snippet);
      if (!removed) throw new CliError(say(HISTORY.notRemoved, { snippet }), EXIT.notFound);
      const params = { site, entry: removed.entry };
      const body = { only: [snippet] };
      const { data } = await client.call('undoActivity', { params, ifMatch: '*', body });
      if (options.json) printJson(data);
      else printProse(say(HISTORY.broughtBack, { name: removed.name }));
    });
}

async function removedOf(client: ApiClient, site: string) {
  return (await client.call('listRemovedSnippets', { params: { site }, query: { limit: 200 } })).data.items;
}

async function undoOne(
  typed: string,
  { snippet, choose = [], preview = false, ...options }: UndoOptions,
): Promise<void> {
  const client = clientFor(options);
  const params = { site: await siteFor(client, options), entry: wholeNumber(typed) };
  const only = snippet === undefined ? {} : { only: [...snippet] };
  const ask = (choices: Record<string, Choice>, isPreview: boolean, ifMatch: string) =>
    client.call('undoActivity', { params, ifMatch, body: { ...only, choices, preview: isPreview } });
  const { data: asked, etag } = await ask({}, true, '*');
  const choices = choicesOf(choose, asked.conflicts);
  const open = asked.conflicts.filter(({ id }) => choices[id] === undefined);
  const isUndone = !preview && open.length === 0;
  const { data } = await ask(choices, !isUndone, etag);
  if (options.json) printJson(data);
  else report(data, open);
  if (open.length > 0 && !preview) process.exitCode = EXIT.conflict;
}

/** What was chosen, by id of the conflict: one for all, or one by one. @throws CliError */
function choicesOf(typed: readonly string[], conflicts: Undone['conflicts']): Record<string, Choice> {
  const choices: Record<string, Choice> = {};
  for (const one of typed) {
    const equals = one.lastIndexOf('=');
    const choice = one.slice(equals + 1);
    if (choice !== 'now' && choice !== 'before')
      throw new CliError(say(HISTORY.chooseForm, { example: `${conflicts[0]?.id ?? 'order'}=before` }));
    if (equals < 0) for (const { id } of conflicts) choices[id] ??= choice;
    else choices[one.slice(0, equals)] = choice;
  }
  return choices;
}

function report({ isDone, changes, conflicts, gone }: Undone, open: Undone['conflicts']): void {
  if (!isDone && changes.length > 0) print(say(HISTORY.wouldChange, { count: changes.length }));
  for (const change of changes) printProse(`  ${colour.yellow('•')} ${change}`);
  if (gone.length > 0) printProse(say(HISTORY.gone, { keys: gone }));
  if (!isDone && conflicts.length > 0) {
    print(`\n${HISTORY.conflicts}`);
    for (const { id, what, now, before } of conflicts)
      print(say(HISTORY.conflict, { id: colour.bold(id), what, now, before }));
    if (open.length > 0) note(say(HISTORY.decide, { id: open[0]!.id }));
  }
  if (isDone) note(colour.green(changes.length > 0 ? HISTORY.undone : HISTORY.undoneNothing));
  else if (changes.length === 0 && conflicts.length === 0) print(HISTORY.undoneNothing);
}
