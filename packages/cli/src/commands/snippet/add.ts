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
import { SNIPPET } from '../../texts/snippet.js';
import { say } from '../../texts/say.js';

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
    .description(SNIPPET.addSnippetDraft)
    .option('--paste', SNIPPET.readCodeSay)
    .option('-y, --yes', SNIPPET.pasteTakeWhat)
    .option('--key <key>', SNIPPET.namesCommandsMade)
    .option('--off', SNIPPET.addSwitchedOff)
    .addHelpText(
      'after',
      SNIPPET.examplesPragmaticaSnippet +
        SNIPPET.pragmaticaSnippetAdd +
        SNIPPET.pragmaticaSnippetAddHarbour +
        SNIPPET.pbpastePragmaticaSnippet +
        SNIPPET.pragmaticaSnippetAddTag,
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
      report(
        data,
        options,
        say(SNIPPET.addedKeyDraft, { key: data.key, places: placesWords(data), reach: reachText(data) }),
      );
      if (options.json) return;
      await tellFindings(client, site, data.key);
      note(SNIPPET.visitorsDoNot);
    });
}

async function given(name: string | undefined, options: AddOptions): Promise<Content> {
  if (name === undefined) throw new CliError(SNIPPET.giveNameSay);
  const parts = await readParts(options);
  if (!parts) throw new CliError(SNIPPET.giveCodePlacement);
  return { name, parts, provider: options.provider, purpose: options.purpose };
}

/** What is read out of the code, shown, and taken over when nobody objects. */
async function pasted(client: ApiClient, name: string | undefined, options: AddOptions): Promise<Content> {
  if (options.part) throw new CliError(SNIPPET.pasteFindsPieces);
  const mayAsk = process.stdin.isTTY && !options.yes && !options.json;
  if (!mayAsk && !options.yes) throw new CliError(SNIPPET.pasteAsksBefore);
  const code = await readCode(options.code ?? '-');
  if (code.trim() === '') throw new CliError(SNIPPET.thereNoCode);
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
  note(
    colour.bold(
      parts.length === 1 ? SNIPPET.whereGoes : say(SNIPPET.countPiecesEach, { count: parts.length }),
    ),
  );
  suggested.forEach(({ because, placement }, index) => {
    const chosen = parts[index]!.placement;
    const why = placementKey(chosen) === placementKey(placement) ? because : SNIPPET.youChose;
    note(`  ${colour.cyan(placementWords(chosen))}: ${why}`);
  });
  const { recipe } = (await client.call('readCode', { body: { code } })).data;
  if (recipe) {
    note(colour.bold(SNIPPET.thereRecipe));
    note(say(SNIPPET.namePragmaticaRecipe, { name: recipe.name, key: recipe.key }));
  }
  let called = name ?? names.name;
  if (mayAsk) {
    const { confirm, input } = await import('@inquirer/prompts');
    if (name === undefined) called = await input({ message: SNIPPET.name, default: names.name });
    if (!(await confirm({ message: say(SNIPPET.addCalledDraft, { called }), default: true })))
      throw new CliError(SNIPPET.nothingWasAdded);
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
    print(SNIPPET.checksFindNothing);
    return;
  }
  for (const { severity, title, advice } of data.items)
    print(`${severity === 'error' ? colour.red(severity) : colour.yellow(severity)}: ${title}. ${advice}`);
  print(SNIPPET.morePragmaticaCheck);
}
