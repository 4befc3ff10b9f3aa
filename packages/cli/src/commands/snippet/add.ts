import {
  factWords,
  placementKey,
  placementWords,
  readCode as readFacts,
  suggestNames,
  suggestParts,
} from '@pragmatica/core';
import type { ApiClient } from '@pragmatica/contract';
import type { Command } from 'commander';
import { parsePlacement, readCode } from '../../code-input.js';
import { clientFor, siteFor } from '../../context.js';
import { CliError } from '../../errors.js';
import { colour, note, print } from '../../output.js';
import { readLimits, withReach, type ReachOptions } from '../../reach-options.js';
import { readParts, withContent, type ContentOptions, type PartInput } from './content.js';
import { placesWords, reachText, report } from './words.js';

interface AddOptions extends ContentOptions, ReachOptions {
  readonly key?: string;
  readonly off?: boolean;
  readonly paste?: boolean;
  readonly yes?: boolean;
}

interface Content {
  readonly name: string;
  readonly provider?: string | undefined;
  readonly purpose?: string | undefined;
  readonly parts: PartInput[];
}

export function add(group: Command): void {
  withReach(withContent(group.command('add [name]')))
    .description('add a snippet to the draft')
    .option('--paste', 'read the code, say what it is and where it goes, split it into its pieces, then ask')
    .option('-y, --yes', 'with --paste: take what is suggested without asking')
    .option('--key <key>', 'names it in commands; made from the name when left out')
    .option('--off', 'add it switched off')
    .addHelpText(
      'after',
      '\nExamples:\n  pragmatica snippet add --paste\n' +
        '  pragmatica snippet add --paste --code chat.html --said "just above the closing body tag"\n' +
        '  pragmatica snippet add "Harbour chat" --placement body-end --code chat.html\n' +
        '  pbpaste | pragmatica snippet add "Visit counter" --placement head-end --code -\n' +
        '  pragmatica snippet add "Tag container" --part head-start=top.html --part body-start=body.html',
    )
    .action(async (name: string | undefined, options: AddOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const content = options.paste ? await pasted(client, name, options) : await given(name, options);
      const { data } = await client.call('createSnippet', {
        params: { site },
        body: {
          key: options.key,
          ...content,
          state: options.off ? 'off' : 'on',
          pages: { include: options.pages ?? [], exclude: options.except ?? [] },
          limits: readLimits(options),
          needs: options.needs,
          note: options.note,
        },
      });
      report(data, options, `Added "${data.key}" to the draft: ${placesWords(data)}, ${reachText(data)}.`);
      if (options.json) return;
      await tellFindings(client, site, data.key);
      note('Visitors do not get it yet. See "pragmatica diff", then "pragmatica publish -m MESSAGE".');
    });
}

async function given(name: string | undefined, options: AddOptions): Promise<Content> {
  if (name === undefined)
    throw new CliError('Give it a name, or say --paste and take the one that is suggested.');
  const parts = await readParts(options);
  if (!parts)
    throw new CliError(
      'Give the code: --placement body-end --code FILE ("-" for standard input), or --part PLACEMENT=FILE. Or say --paste.',
    );
  return { name, parts, provider: options.provider, purpose: options.purpose };
}

/** What is read out of the code, shown, and taken over when nobody objects. */
async function pasted(client: ApiClient, name: string | undefined, options: AddOptions): Promise<Content> {
  if (options.part) throw new CliError('--paste finds the pieces itself: leave out --part.');
  const mayAsk = process.stdin.isTTY && !options.yes && !options.json;
  if (!mayAsk && !options.yes)
    throw new CliError('--paste asks before it adds anything. Say --yes when nobody can answer.');
  const code = await readCode(options.code ?? '-');
  if (code.trim() === '') throw new CliError('There is no code. Paste what the provider gave you.');
  const facts = readFacts(code);
  const names = suggestNames(facts);
  const suggested = suggestParts(code, options.said);
  const only = options.placement === undefined ? undefined : parsePlacement(options.placement);
  const parts = suggested.map(({ code: piece, placement, statement }) => ({
    code: piece,
    placement: suggested.length === 1 ? (only ?? placement) : placement,
    ...(statement === '' ? {} : { statement }),
  }));
  // What was read goes beside the result, so that --json stays clean.
  for (const { title, lines } of factWords(facts)) {
    note(colour.bold(title));
    for (const line of lines) note(`  ${line}`);
  }
  note(colour.bold(parts.length === 1 ? 'Where it goes' : `In ${parts.length} pieces, each at its place`));
  suggested.forEach(({ because, placement }, index) => {
    const chosen = parts[index]!.placement;
    const why = placementKey(chosen) === placementKey(placement) ? because : 'You chose it.';
    note(`  ${colour.cyan(placementWords(chosen))}: ${why}`);
  });
  const { recipe } = (await client.call('readCode', { body: { code } })).data;
  if (recipe) {
    note(colour.bold('There is a recipe for this'));
    note(`  ${recipe.name}: pragmatica recipe apply ${recipe.key}`);
  }
  let called = name ?? names.name;
  if (mayAsk) {
    const { confirm, input } = await import('@inquirer/prompts');
    if (name === undefined) called = await input({ message: 'Name', default: names.name });
    if (!(await confirm({ message: `Add “${called}” to the draft like this?`, default: true })))
      throw new CliError('Nothing was added.');
  }
  return {
    name: called,
    parts,
    provider: options.provider ?? names.provider,
    purpose: options.purpose ?? names.purpose,
  };
}

/** What the checks find about it, with the rest of the site. */
async function tellFindings(client: ApiClient, site: string, snippet: string): Promise<void> {
  const { data } = await client.call('listFindings', { params: { site }, query: { snippet } });
  if (data.items.length === 0) {
    print('The checks find nothing wrong with it and the rest of the site.');
    return;
  }
  for (const { severity, title, advice } of data.items)
    print(`${severity === 'error' ? colour.red(severity) : colour.yellow(severity)}: ${title}. ${advice}`);
  print('More with: pragmatica check');
}
