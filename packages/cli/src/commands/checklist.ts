import { nearest, type ChecklistItemResource } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { colour, print, printJson, when } from '../output.js';

export function checklist(program: Command): void {
  withSite(program.command('checklist'))
    .description('what has to be done at the providers, where nobody but you can do it')
    .option('--open', 'only what is not done')
    .action(async (options: SiteOptions & { open?: boolean }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { items } = (await client.call('showChecklist', { params: { site } })).data;
      const shown = options.open ? items.filter(({ tick }) => !tick) : items;
      if (options.json) printJson(shown);
      else tell(shown, items.length);
    });
}

function tell(items: readonly ChecklistItemResource[], all: number): void {
  if (items.length === 0) {
    print(
      all === 0
        ? 'Nothing has to be done at a provider for the snippets of this site.'
        : 'All of it is done.',
    );
    return;
  }
  let recipe = '';
  for (const item of items) {
    if (item.recipe !== recipe) {
      print(
        `${recipe === '' ? '' : '\n'}${colour.bold(item.recipeName)}  ${colour.dim(`for ${item.snippets.map(({ name }) => `“${name}”`).join(', ')}`)}`,
      );
      recipe = item.recipe;
    }
    if (item.tick)
      print(`  ${colour.green('✔')} ${item.title}  ${colour.dim(`${item.tick.by}, ${when(item.tick.at)}`)}`);
    else {
      print(`  ${colour.yellow('○')} ${item.title}`);
      if (item.help !== '') print(`    ${item.help}`);
      print(`    ${colour.dim(`Done? pragmatica tick ${idOf(item)}`)}`);
    }
  }
}

/** `recipe/step@host`. */
function idOf({ recipe, step, host }: Pick<ChecklistItemResource, 'recipe' | 'step' | 'host'>): string {
  return `${recipe}/${step}${host === '' ? '' : `@${host}`}`;
}

export function tick(program: Command): void {
  withSite(program.command('tick <steps...>'))
    .description('tick off what was done at a provider; your name and the time are kept')
    .option('--undo', 'take the tick back')
    .addHelpText(
      'after',
      '\nSteps are written as "pragmatica checklist" shows them.\n\nExample:\n  pragmatica tick parlanook-chat/domain@www.example.com',
    )
    .action(async (steps: string[], options: SiteOptions & { undo?: boolean }) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const { items } = (await client.call('showChecklist', { params })).data;
      const meant = steps.map((typed) => {
        const item = items.find((entry) => idOf(entry) === typed);
        if (item) return item;
        const known = items.map(idOf);
        const near = nearest(typed, known);
        const hint =
          near === undefined ? `It has: ${known.join(', ') || 'nothing'}.` : `Did you mean "${near}"?`;
        throw new CliError(`There is no step "${typed}" on the checklist. ${hint}`, EXIT.notFound);
      });
      const done = options.undo !== true;
      let after = items;
      for (const { recipe, step, host, title } of meant) {
        after = (await client.call('tickStep', { params, body: { recipe, step, host, done } })).data.items;
        if (!options.json) print(`${done ? 'Done' : 'Not done after all'}: ${title}.`);
      }
      if (options.json) printJson(after.filter((item) => steps.includes(idOf(item))));
    });
}
