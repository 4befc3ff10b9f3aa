import { nearest, type ChecklistItemResource } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { colour, printJson, printProse, when } from '../output.js';
import { CHECKLIST } from '../texts/checklist.js';
import { say } from '../texts/say.js';

export function checklist(program: Command): void {
  withSite(program.command('checklist'))
    .description(CHECKLIST.whatHasDone)
    .option('--open', CHECKLIST.onlyWhatNot)
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
    printProse(all === 0 ? CHECKLIST.nothingHasDone : CHECKLIST.allDone);
    return;
  }
  let recipe = '';
  for (const item of items) {
    if (item.recipe !== recipe) {
      printProse(
        `${recipe === '' ? '' : '\n'}${colour.bold(item.recipeName)}  ${colour.dim(`for ${item.snippets.map(({ name }) => say(CHECKLIST.snippetName, { name })).join(', ')}`)}`,
      );
      recipe = item.recipe;
    }
    if (item.tick)
      printProse(
        `  ${colour.green('✔')} ${item.title}  ${colour.dim(`${item.tick.by}, ${when(item.tick.at)}`)}`,
      );
    else {
      printProse(`  ${colour.yellow('○')} ${item.title}`);
      if (item.help !== '') printProse(`    ${item.help}`);
      printProse(`    ${colour.dim(say(CHECKLIST.donePragmaticaTick, { id: idOf(item) }))}`);
    }
  }
}

/** `recipe/step@host`. */
function idOf({ recipe, step, host }: Pick<ChecklistItemResource, 'recipe' | 'step' | 'host'>): string {
  return `${recipe}/${step}${host === '' ? '' : `@${host}`}`;
}

export function tick(program: Command): void {
  withSite(program.command('tick <steps...>'))
    .description(CHECKLIST.tickOffWhat)
    .option('--undo', CHECKLIST.takeTickBack)
    .addHelpText('after', CHECKLIST.stepsWrittenPragmatica)
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
          near === undefined
            ? say(CHECKLIST.itHas, { steps: known.join(', ') || 'nothing' })
            : say(CHECKLIST.didYouMean, { near });
        throw new CliError(say(CHECKLIST.thereNoStep, { typed, hint }), EXIT.notFound);
      });
      const done = options.undo !== true;
      let after = items;
      for (const { recipe, step, host, title } of meant) {
        after = (await client.call('tickStep', { params, body: { recipe, step, host, done } })).data.items;
        if (!options.json) printProse(`${done ? CHECKLIST.done : CHECKLIST.notDoneAfter}: ${title}.`);
      }
      if (options.json) printJson(after.filter((item) => steps.includes(idOf(item))));
    });
}
