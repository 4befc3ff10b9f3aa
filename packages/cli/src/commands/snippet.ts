import type { SnippetPatch, SnippetResource } from '@pragmatica/contract';
import {
  containmentProblem,
  moveInList,
  pageRulesWords,
  partKey,
  placementKey,
  placementWords,
  type Placement,
} from '@pragmatica/core';
import type { Command } from 'commander';
import { parsePart, parsePlacement, readCode } from '../code-input.js';
import { assertSnippet, clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { colour, note, print, printJson, table } from '../output.js';

interface ContentOptions extends SiteOptions {
  readonly code?: string;
  readonly placement?: string;
  readonly part?: string[];
  readonly pages?: string[];
  readonly except?: string[];
  readonly allPages?: boolean;
  readonly provider?: string;
  readonly purpose?: string;
  readonly note?: string;
}

export function snippet(program: Command): void {
  const group = program.command('snippet').description('add, look at and change snippets in the draft');
  add(group);
  list(group);
  show(group);
  edit(group);
  move(group);
  switches(group);
  remove(group);
}

function withContent(command: Command): Command {
  return withSite(command)
    .option('--code <file>', 'the code of a snippet with one part; "-" reads standard input')
    .option(
      '--placement <placement>',
      'where it goes: head-start, head-end, body-start, body-end, inside:#id, before:#id',
    )
    .option(
      '--part <placement=file...>',
      'a part with its placement; repeat it for an install in several pieces',
    )
    .option('--pages <pattern...>', 'only on these pages, e.g. /booking "/news/*"')
    .option('--except <pattern...>', 'not on these pages')
    .option('--provider <name>', 'who the code is from')
    .option('--purpose <text>', 'what it is for')
    .option('--note <text>', 'anything worth knowing');
}

function add(group: Command): void {
  withContent(group.command('add <name>'))
    .description('add a snippet to the draft')
    .option('--key <key>', 'names it in commands; made from the name when left out')
    .option('--off', 'add it switched off')
    .addHelpText(
      'after',
      '\nExamples:\n  pragmatica snippet add "Harbour chat" --placement body-end --code chat.html\n' +
        '  pbpaste | pragmatica snippet add "Visit counter" --placement head-end --code -\n' +
        '  pragmatica snippet add "Tag container" --part head-start=top.html --part body-start=body.html',
    )
    .action(async (name: string, options: ContentOptions & { key?: string; off?: boolean }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const parts = await readParts(options);
      if (!parts)
        throw new CliError(
          'Give the code: --placement body-end --code FILE ("-" for standard input), or --part PLACEMENT=FILE.',
        );
      const { data } = await client.call('createSnippet', {
        params: { site },
        body: {
          key: options.key,
          name,
          parts,
          state: options.off ? 'off' : 'on',
          pages: { include: options.pages ?? [], exclude: options.except ?? [] },
          provider: options.provider,
          purpose: options.purpose,
          note: options.note,
        },
      });
      report(
        data,
        options,
        `Added "${data.key}" to the draft: ${placesWords(data)}, ${pageRulesWords(data.pages)}.`,
      );
      if (!options.json)
        note('Visitors do not get it yet. See "pragmatica diff", then "pragmatica publish -m MESSAGE".');
    });
}

function list(group: Command): void {
  withSite(group.command('list'))
    .description('list the snippets of the draft')
    .action(async (options: SiteOptions) => {
      const client = clientFor(options);
      const { items } = (
        await client.call('listSnippets', { params: { site: await siteFor(client, options) } })
      ).data;
      if (options.json) printJson(items);
      else if (items.length === 0) print('No snippets yet. Add one with: pragmatica snippet add --help');
      else {
        const rows = items.map((item) => [
          colour.bold(item.key),
          stateWords(item.state),
          item.parts.map((part) => placementKey(part.placement)).join(', '),
          pageRulesWords(item.pages).replace(/^on /, ''),
          item.provider,
          item.name,
        ]);
        print(table(['SNIPPET', 'STATE', 'PLACEMENT', 'PAGES', 'PROVIDER', 'NAME'], rows));
      }
    });
}

function show(group: Command): void {
  withSite(group.command('show <snippet>'))
    .description('show one snippet with its code')
    .action(async (key: string, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      const { data } = await client.call('showSnippet', { params: { site, snippet: key } });
      if (options.json) {
        printJson(data);
        return;
      }
      print(`${colour.bold(data.name)}  ${stateWords(data.state)}`);
      const lines = [
        ['Key', data.key],
        ['Purpose', data.purpose],
        ['Provider', data.provider],
        ['Note', data.note],
        ['Pages', pageRulesWords(data.pages)],
        ['Changed', `by ${data.updatedBy}`],
      ];
      for (const [label, value] of lines) if (value) print(`${colour.dim(label!.padEnd(9))} ${value}`);
      data.parts.forEach((part, index) => {
        print(`\n${colour.cyan(`${partKey(data.key, index)}  ${placementWords(part.placement)}`)}`);
        print(part.code.replace(/^/gm, '  '));
      });
    });
}

function edit(group: Command): void {
  withContent(group.command('edit <snippet>'))
    .description('change a snippet in the draft; what is not named stays')
    .option('--name <name>', 'a new name')
    .option('--all-pages', 'on every page again')
    .addHelpText(
      'after',
      '\nExamples:\n  pragmatica snippet edit harbour-chat --code chat.html\n  pragmatica snippet edit summer-offer --pages / /fares --note "until September"',
    )
    .action(async (key: string, options: ContentOptions & { name?: string }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      const params = { site, snippet: key };
      const { data: old, etag } = await client.call('showSnippet', { params });
      const body = await patchOf(old, options);
      if (Object.keys(body).length === 0)
        throw new CliError(
          'Say what to change, e.g. --code FILE or --pages. See "pragmatica snippet edit --help".',
        );
      const { data } = await client.call('editSnippet', { params, ifMatch: etag, body });
      report(
        data,
        options,
        `Changed "${key}" in the draft: ${placesWords(data)}, ${pageRulesWords(data.pages)}.`,
      );
    });
}

async function patchOf(
  old: SnippetResource,
  options: ContentOptions & { name?: string },
): Promise<SnippetPatch> {
  const patch: SnippetPatch = {};
  for (const field of ['name', 'provider', 'purpose', 'note'] as const)
    if (options[field] !== undefined) patch[field] = options[field];
  if (options.allPages) patch.pages = { include: [], exclude: [] };
  else if (options.pages ?? options.except)
    patch.pages = {
      include: options.pages ?? old.pages.include,
      exclude: options.except ?? old.pages.exclude,
    };
  const parts = await readParts(options, old);
  if (parts) patch.parts = parts;
  return patch;
}

function move(group: Command): void {
  interface MoveOptions extends SiteOptions {
    readonly first?: boolean;
    readonly last?: boolean;
    readonly before?: string;
    readonly after?: string;
  }
  withSite(group.command('move <part>'))
    .description('change the order within a placement')
    .option('--first', 'to the front of its placement')
    .option('--last', 'to the end')
    .option('--before <part>', 'right before another part')
    .option('--after <part>', 'right after another part')
    .addHelpText(
      'after',
      '\nA part is a snippet’s key, or key/2 for its second part.\n\nExample:\n  pragmatica snippet move tag-container --before cookie-question',
    )
    .action(async (typed: string, options: MoveOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const toPart = (name: string): string => (name.includes('/') ? name : `${name}/1`);
      const part = toPart(typed);
      await assertSnippet(client, site, part.split('/')[0]!);
      const target = targetOf(options, toPart);
      const { data: order, etag } = await client.call('showOrder', { params: { site } });
      const found = order.lists.find((entry) => entry.parts.includes(part));
      if (!found)
        throw new CliError(`"${typed}" has no such part. A snippet’s parts are key/1, key/2 and so on.`);
      const parts = moveInList(found.parts, part, target);
      if (!parts)
        throw new CliError(
          `Both must stand in the same placement. ${placementWords(found.placement)} are: ${found.parts.join(', ')}.`,
        );
      const { data } = await client.call('changeOrder', {
        params: { site },
        ifMatch: etag,
        body: { lists: [{ placement: found.placement, parts }] },
      });
      if (options.json) printJson(data);
      else
        print(
          `The order ${placementWords(found.placement)} is now, in the draft:\n${parts.map((key, index) => `  ${index + 1}. ${key === part ? colour.bold(key) : key}`).join('\n')}`,
        );
    });

  function targetOf(options: MoveOptions, toPart: (name: string) => string) {
    if (options.first) return { to: 'first' as const };
    if (options.last) return { to: 'last' as const };
    if (options.before !== undefined) return { before: toPart(options.before) };
    if (options.after !== undefined) return { after: toPart(options.after) };
    throw new CliError('Say where to: --first, --last, --before PART or --after PART.');
  }
}

const SWITCHES = [
  { name: 'on', state: 'on', does: 'switch a snippet on', says: 'is on' },
  { name: 'off', state: 'off', does: 'switch a snippet off for a while', says: 'is off' },
  {
    name: 'archive',
    state: 'archived',
    does: 'put a snippet away; it stops running but is kept',
    says: 'is archived',
  },
] as const;

function switches(group: Command): void {
  for (const { name, state, does, says } of SWITCHES) {
    withSite(group.command(`${name} <snippet>`))
      .description(does)
      .action(async (key: string, options: SiteOptions) => {
        const client = clientFor(options);
        const site = await siteFor(client, options);
        await assertSnippet(client, site, key);
        const params = { site, snippet: key };
        const { etag } = await client.call('showSnippet', { params });
        const { data } = await client.call('editSnippet', { params, ifMatch: etag, body: { state } });
        report(data, options, `"${key}" ${says} in the draft. Publish to make it so for visitors.`);
      });
  }
}

function remove(group: Command): void {
  withSite(group.command('remove <snippet>'))
    .description('remove a snippet from the draft; releases keep their copy')
    .option('-y, --yes', 'do not ask')
    .action(async (key: string, options: SiteOptions & { yes?: boolean }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      if (!options.yes) {
        if (!process.stdin.isTTY)
          throw new CliError('Removing asks first. Say --yes when nobody can answer.');
        const { confirm } = await import('@inquirer/prompts');
        if (!(await confirm({ message: `Remove "${key}" from the draft?`, default: false })))
          throw new CliError('Nothing was removed.');
      }
      const params = { site, snippet: key };
      const { etag } = await client.call('showSnippet', { params });
      await client.call('removeSnippet', { params, ifMatch: etag });
      if (options.json) printJson({ removed: key });
      else print(`Removed "${key}" from the draft. Visitors get it until you publish; old releases keep it.`);
    });
}

type PartInput = { placement: Placement; code: string };

/** Parts from the options; undefined when none of them is about parts. */
async function readParts(options: ContentOptions, old?: SnippetResource): Promise<PartInput[] | undefined> {
  if (options.part) {
    if (options.code !== undefined || options.placement !== undefined)
      throw new CliError('Use either --part, or --placement with --code.');
    return Promise.all(options.part.map(parsePart));
  }
  if (options.code === undefined && options.placement === undefined) return undefined;
  const only = old?.parts.length === 1 ? old.parts[0] : undefined;
  if (old && !only)
    throw new CliError(
      `"${old.key}" has ${old.parts.length} parts. Give all of them with --part PLACEMENT=FILE.`,
    );
  const placement = options.placement === undefined ? only?.placement : parsePlacement(options.placement);
  if (placement === undefined)
    throw new CliError(
      'Say where the code goes: --placement head-start, head-end, body-start, body-end, inside:#id or before:#id.',
    );
  const code = options.code === undefined ? only?.code : await readCode(options.code);
  if (code === undefined) throw new CliError('Give the code with --code FILE, or "-" for standard input.');
  return [{ placement, code }];
}

function report(data: SnippetResource, options: SiteOptions, text: string): void {
  if (options.json) {
    printJson(data);
    return;
  }
  print(text);
  for (const part of data.parts) {
    const found = containmentProblem(part.code, part.placement);
    if (found) note(colour.red(`It cannot be published like this: ${found.message}`));
  }
}

function placesWords(data: SnippetResource): string {
  return data.parts.map((part) => placementWords(part.placement)).join(' and ');
}

function stateWords(state: SnippetResource['state']): string {
  return { on: colour.green('on'), off: colour.yellow('off'), archived: colour.dim('archived') }[state];
}
