import type { ApiClient, RecipeUpdate } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, sitesFor, withSites, type SitesOptions } from '../../context.js';
import { CliError, EXIT } from '../../errors.js';
import { colour, print, printJson, table } from '../../output.js';
import { RECIPE } from '../../texts/recipe.js';
import { say } from '../../texts/say.js';

export function behind(group: Command): void {
  withSites(group.command('behind'))
    .description(RECIPE.snippetsFollowOlder)
    .action(async (options: SitesOptions) => {
      const updates = await updatesOf(clientFor(options), options);
      if (options.json) printJson(updates);
      else if (updates.length === 0) print(RECIPE.everySnippetFollows);
      else {
        for (const { key, name, to, news } of recipesIn(updates)) {
          print(`${colour.bold(name)} (${key}), version ${to}:`);
          for (const line of news) print(`  • ${line}`);
        }
        print();
        print(table(['SNIPPET', 'RECIPE', 'FOLLOWS', 'NEWEST', ''], updates.map(row)));
        print(RECIPE.seeWhatWould);
      }
    });
}

function row({ site, snippet, recipe, from, to, replaced }: RecipeUpdate): string[] {
  return [
    colour.bold(`${site}/${snippet}`),
    recipe,
    String(from),
    String(to),
    replaced.length > 0 ? colour.yellow(RECIPE.changedHand) : '',
  ];
}

interface RecipeNews {
  readonly key: string;
  readonly name: string;
  readonly to: number;
  readonly news: readonly string[];
}

/** What is new in each recipe, seen from the oldest version that is followed. */
function recipesIn(updates: readonly RecipeUpdate[]): RecipeNews[] {
  const found = new Map<string, RecipeUpdate>();
  for (const update of updates) {
    const oldest = found.get(update.recipe);
    if (!oldest || update.from < oldest.from) found.set(update.recipe, update);
  }
  return [...found.values()].map(({ recipe, recipeName, to, news }) => ({
    ...{ key: recipe, name: recipeName, to, news },
  }));
}

/** Of the sites that are named; of all when none is. */
async function updatesOf(client: ApiClient, options: SitesOptions): Promise<RecipeUpdate[]> {
  const { items } = (await client.call('listRecipeUpdates', { query: {} })).data;
  if (options.site === undefined || options.allSites) return items;
  const sites = await sitesFor(client, options);
  return items.filter(({ site }) => sites.includes(site));
}

interface UpdateOptions extends SitesOptions {
  readonly all?: boolean;
  readonly preview?: boolean;
  readonly replaceEdits?: boolean;
}

export function update(group: Command): void {
  withSites(group.command('update [snippets...]'))
    .description(RECIPE.bringSnippetsUp)
    .option('--all', RECIPE.allBehindAll)
    .option('--preview', RECIPE.onlyShowWhat)
    .option('--replace-edits', RECIPE.alsoWhereRecipe)
    .addHelpText('after', RECIPE.snippetWrittenSite)
    .action(async (typed: string[], options: UpdateOptions) => {
      if (typed.length === 0 && options.all !== true) throw new CliError(RECIPE.nameSnippetsSay);
      const client = clientFor(options);
      const updates = await updatesOf(client, options.all ? options : { ...options, allSites: true });
      const meant = options.all ? updates : await chosen(client, typed, updates, options);
      if (options.preview) {
        if (options.json) printJson(meant);
        else tellPreview(meant);
        return;
      }
      if (meant.length === 0) {
        if (options.json) printJson([]);
        else print(RECIPE.everySnippetFollows);
        return;
      }
      const { data } = await client.call('updateFromRecipes', {
        body: {
          snippets: meant.map(({ site, snippet }) => ({ site, snippet })),
          replaceEdits: options.replaceEdits === true,
        },
      });
      if (options.json) printJson(data.items);
      else
        print(
          table(
            ['SNIPPET', '', 'RESULT'],
            data.items.map(({ site, snippet, isDone, message }) => [
              colour.bold(`${site}/${snippet}`),
              isDone ? colour.green('done') : colour.yellow(RECIPE.notDone),
              message,
            ]),
          ),
        );
      if (data.items.some(({ isDone }) => !isDone)) process.exitCode = EXIT.found;
    });
}

/** @throws CliError for a snippet that is not behind */
async function chosen(
  client: ApiClient,
  typed: readonly string[],
  updates: readonly RecipeUpdate[],
  options: SitesOptions,
): Promise<RecipeUpdate[]> {
  const found: RecipeUpdate[] = [];
  for (const text of typed) {
    const [site, snippet] = text.includes('/')
      ? (text.split('/') as [string, string])
      : [(await sitesFor(client, options))[0]!, text];
    const update = updates.find((entry) => entry.site === site && entry.snippet === snippet);
    if (!update)
      throw new CliError(
        say(RECIPE.notBehind, {
          site,
          snippet,
          behind: updates.map((entry) => `${entry.site}/${entry.snippet}`).join(', ') || 'none',
        }),
        EXIT.notFound,
      );
    found.push(update);
  }
  return found;
}

function tellPreview(updates: readonly RecipeUpdate[]): void {
  for (const { site, snippet, from, to, changes, code, replaced } of updates) {
    print(`${colour.bold(`${site}/${snippet}`)}  version ${from} → ${to}`);
    for (const change of changes) print(`  • ${change}`);
    for (const line of replaced) print(colour.yellow(`  ! ${line}`));
    for (const { before, after } of code) tellCode(before, after);
  }
  print(
    updates.length === 0
      ? RECIPE.everySnippetFollows
      : say(RECIPE.snippetWouldChange, { count: updates.length }),
  );
}

/** Lines that go and lines that come. */
function tellCode(before: string, after: string): void {
  const [was, is] = [before.split('\n'), after.split('\n')];
  for (const line of was) if (line !== '' && !is.includes(line)) print(colour.red(`    - ${line}`));
  for (const line of is) if (!was.includes(line)) print(colour.green(`    + ${line}`));
}
