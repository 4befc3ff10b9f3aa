import { writeFileSync } from 'node:fs';
import type { ApiClient, BlocksResource, BoxResource } from '@pragmatica/contract';
import { BOX_KEYS, dateWords, dayAt, handoverSheet, type BoxKind } from '@pragmatica/core';
import { Argument, Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { colour, note, print, printJson, table } from '../output.js';
import { handover } from './handover.js';
import { PASTE } from '../texts/paste.js';
import { say } from '../texts/say.js';
import { wholeNumber } from '../whole-number.js';

interface PasteOptions extends SiteOptions {
  readonly environment: 'live' | 'staging';
  readonly draft?: boolean;
  readonly page?: string;
}
type Block = BlocksResource['blocks'][number];

const kindArgument = (): Argument => new Argument('<kind>').choices(BOX_KEYS);

export function paste(program: Command): void {
  const command = withPaste(program.command('paste')).enablePositionalOptions();
  command
    .description(PASTE.description)
    .option('--draft', PASTE.draft)
    .addHelpText('after', PASTE.boxKinds)
    .action(async (options: PasteOptions) => {
      const data = await load(options);
      if (options.json) printJson(data);
      else report(data, options.draft === true);
    });
  withPaste(command.command('text').addArgument(kindArgument()))
    .description(PASTE.text)
    .option('--page <path>', PASTE.page)
    .option('--draft', PASTE.draft)
    .action(async (kind: BoxKind, options: PasteOptions) => {
      const block = findBlock(await load(options), kind, options.page);
      if (options.json) printJson(block);
      else print(block.text);
    });
  withPaste(command.command('done').addArgument(kindArgument()))
    .description(PASTE.done)
    .option('--page <path>', PASTE.page)
    .option('--empty', PASTE.empty)
    .action(async (kind: BoxKind, options: PasteOptions & { empty?: boolean }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const block = options.empty ? undefined : findBlock(await load(options), kind, options.page);
      const body = {
        ...{ kind, page: options.page ?? null, environment: options.environment },
        digest: block?.digest ?? null,
      };
      const { data } = await client.call('tickBlock', { params: { site }, body });
      const open = data.blocks.filter(({ state }) => state !== 'done').length;
      if (options.json) printJson(data);
      else print(block ? say(PASTE.nowDone, { name: block.name, open }) : PASTE.nowEmpty);
    });
  describeBox(command);
  handover(command);
  withPaste(command.command('check'))
    .description(PASTE.check)
    .action(async (options: PasteOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const { environment } = options;
      const { data } = await client.call('checkBlocks', { params, query: { environment } });
      if (data.counts.wrong > 0) process.exitCode = EXIT.found;
      if (options.json) {
        printJson(data);
        return;
      }
      for (const { page, problem, findings } of data.pages) {
        const wrong = findings.filter(({ state }) => state !== 'right');
        const sign = problem !== null || wrong.length > 0 ? colour.red('✗') : colour.green('✓');
        print(`${sign} ${page}`);
        for (const message of problem === null ? wrong.map((one) => one.message) : [problem])
          print(`    ${message}`);
      }
      print(`\n${say(PASTE.checked, { ...data.counts, release: data.release })}`);
    });
  withPaste(command.command('sheet'))
    .description(PASTE.sheet)
    .option('--out <file>', PASTE.out)
    .action(async (options: PasteOptions & { out?: string }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { name } = (await client.call('showSite', { params: { site } })).data;
      const { release, blocks, obsolete } = await load(options);
      const text = handoverSheet(name, release ?? 0, blocks, obsolete);
      if (options.out === undefined) print(text.trimEnd());
      else writeFileSync(options.out, text);
    });
}

interface BoxOptions extends SiteOptions {
  readonly name?: string;
  readonly maxLength?: number;
  readonly stripsScripts?: boolean;
  readonly stripsComments?: boolean;
  readonly remove?: boolean;
}

function describeBox(command: Command): void {
  withSite(command.command('box').addArgument(kindArgument()))
    .description(PASTE.box)
    .option('--name <name>', PASTE.boxName)
    .option('--max-length <characters>', PASTE.maxLength, wholeNumber)
    .option('--strips-scripts', PASTE.stripsScripts)
    .option('--strips-comments', PASTE.stripsComments)
    .option('--remove', PASTE.remove)
    .addHelpText('after', PASTE.boxKinds)
    .action(async (kind: BoxKind, options: BoxOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const known = (await client.call('listBoxes', { params: { site } })).data.items;
      const boxes = options.remove
        ? known.filter((box) => box.kind !== kind)
        : withBox(
            known,
            boxOf(
              kind,
              options,
              known.find((box) => box.kind === kind),
            ),
          );
      const { data } = await client.call('setBoxes', { params: { site }, body: { boxes } });
      if (options.json) {
        printJson(data.items);
        return;
      }
      const { blocks } = (await client.call('showBlocks', { params: { site }, query: {} })).data;
      const open = blocks.filter(({ state }) => state !== 'done').length;
      print(say(PASTE.boxKept, { open }));
    });
}

function boxOf(kind: BoxKind, options: BoxOptions, before: BoxResource | undefined): BoxResource {
  const name = options.name ?? before?.name;
  if (name === undefined) throw new CliError(PASTE.nameMissing, EXIT.usage);
  return {
    ...before,
    ...{ kind, name },
    ...(options.maxLength === undefined ? {} : { maxLength: options.maxLength }),
    ...(options.stripsScripts ? { stripsScripts: true } : {}),
    ...(options.stripsComments ? { stripsComments: true } : {}),
  };
}

/** The boxes with one of them as it is now; head comes before foot, all pages before one. */
function withBox(boxes: readonly BoxResource[], box: BoxResource): BoxResource[] {
  const others = boxes.filter(({ kind }) => kind !== box.kind);
  return [...others, box].sort((a, b) => BOX_KEYS.indexOf(a.kind) - BOX_KEYS.indexOf(b.kind));
}

function withPaste(command: Command): Command {
  return withSite(command).addOption(
    new Option('--environment <name>', PASTE.environment).choices(['live', 'staging']).default('live'),
  );
}

async function load(options: PasteOptions): Promise<BlocksResource> {
  const client: ApiClient = clientFor(options);
  const params = { site: await siteFor(client, options) };
  const query = { environment: options.environment, of: options.draft ? 'draft' : 'served' } as const;
  return (await client.call('showBlocks', { params, query })).data;
}

function findBlock({ blocks }: BlocksResource, kind: BoxKind, page = ''): Block {
  const block = blocks.find((one) => one.kind === kind && (one.page ?? '') === page);
  if (block) return block;
  const ofPage = page === '' ? '' : say(PASTE.ofPage, { page });
  throw new CliError(say(PASTE.noSuchBlock, { kind, page: ofPage }), EXIT.notFound);
}

function report({ release, boxes, blocks, left, obsolete }: BlocksResource, isDraft: boolean): void {
  if (boxes.length === 0) {
    print(PASTE.noBoxes);
    return;
  }
  if (blocks.length > 0) {
    print(isDraft || release === null ? PASTE.titleDraft : say(PASTE.title, { release }));
    const rows = blocks.map(({ kind, name, page, state, pasted, parts }) => [
      colour.bold(name),
      colour.dim(kind),
      page ?? PASTE.allPages,
      stateWords(state, pasted?.release ?? 0),
      [...new Set(parts.map((part) => part.name))].join(', '),
    ]);
    print(table(['BOX', 'KIND', 'PAGE', 'STATE', 'HOLDS'], rows));
  } else if (left.length === 0) print(PASTE.nothing);
  for (const { message } of left) print(colour.yellow(`• ${message}`));
  for (const { name, tooLongBy, hoursUntil } of blocks) {
    if (tooLongBy !== null) print(colour.red(`• ${say(PASTE.tooLong, { name, over: tooLongBy })}`));
    if (hoursUntil !== null)
      note(say(PASTE.hours, { name, date: dateWords(dayAt(Date.parse(hoursUntil), 'UTC')) }));
  }
  for (const { kind, name, page } of obsolete)
    print(
      say(PASTE.obsolete, {
        name,
        kind,
        page: page ?? PASTE.allPages,
        option: page ? ` --page ${page}` : '',
      }),
    );
  const next = blocks.find(({ state }) => state !== 'done');
  if (next && !isDraft)
    note(
      say(PASTE.next, {
        ...{ kind: next.kind, name: next.name },
        option: next.page === null ? '' : ` --page ${next.page}`,
      }),
    );
}

function stateWords(state: Block['state'], release: number): string {
  if (state === 'done') return colour.green(PASTE.states.done);
  return colour.yellow(state === 'open' ? PASTE.states.open : say(PASTE.states.outdated, { release }));
}
