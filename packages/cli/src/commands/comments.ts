import type { CommentResource, ToldComment } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { colour, note, print, printJson, printProse, table, when } from '../output.js';
import { COMMENTS } from '../texts/comments.js';
import { say } from '../texts/say.js';
import { wholeNumber } from '../whole-number.js';

interface OnOptions extends SiteOptions {
  readonly snippet?: string;
  readonly finding?: string;
}

/** What people say to each other of snippets and findings. */
export function comment(program: Command): void {
  const group = program
    .command('comment')
    .description(COMMENTS.group)
    .addHelpText('after', COMMENTS.examples);
  list(group);
  add(group);
  edit(group);
  withSite(group.command('remove <comment>'))
    .description(COMMENTS.remove)
    .action(async (typed: string, options: SiteOptions) => {
      const client = clientFor(options);
      const id = wholeNumber(typed);
      await client.call('removeComment', { params: { site: await siteFor(client, options), comment: id } });
      if (!options.json) print(say(COMMENTS.removed, { id }));
    });
}

function list(group: Command): void {
  withSite(group.command('list'))
    .description(COMMENTS.list)
    .option('--all', COMMENTS.all)
    .option('--snippet <snippet>', COMMENTS.onSnippet)
    .option('--finding <finding>', COMMENTS.onFinding)
    .action(async ({ all, snippet, finding, ...options }: OnOptions & { readonly all?: boolean }) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const query = { state: all ? 'all' : 'open', snippet, finding, limit: 200 } as const;
      const { data } = await client.call('listComments', { params, query });
      if (options.json) printJson(data.items);
      else if (data.items.length === 0) print(all ? COMMENTS.none : COMMENTS.noneOpen);
      else {
        const { headBy, headWhen, headOn, headText } = COMMENTS;
        print(table(['ID', headBy, headWhen, headOn, headText], data.items.map(row)));
        if (data.next !== null) note(say(COMMENTS.more, { count: data.items.length }));
      }
    });
}

function row({ id, by, at, about, text, doneBy }: CommentResource) {
  const said = [text, ...(doneBy === null ? [] : [colour.dim(say(COMMENTS.doneBy, { by: doneBy }))])];
  return [String(id), by, when(at), about, said];
}

function add(group: Command): void {
  withSite(group.command('add <text>'))
    .description(COMMENTS.add)
    .option('--snippet <snippet>', COMMENTS.onSnippet)
    .option('--finding <finding>', COMMENTS.onFinding)
    .action(async (text: string, { snippet, finding, ...options }: OnOptions) => {
      if ((snippet === undefined) === (finding === undefined)) throw new CliError(COMMENTS.which, EXIT.usage);
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const on = snippet === undefined ? { finding } : { snippet };
      const { data } = await client.call('addComment', { params, body: { text, ...on } });
      if (options.json) printJson(data);
      else tellOf(say(COMMENTS.added, { id: data.id, about: data.about }), data);
    });
}

function tellOf(done: string, { told, notTold, unknown }: ToldComment): void {
  printProse(done);
  if (told.length > 0) printProse(say(COMMENTS.told, { names: told, count: told.length }));
  if (notTold.length > 0) note(say(COMMENTS.notTold, { names: notTold, count: notTold.length }));
  if (unknown.length > 0) note(say(COMMENTS.unknown, { names: unknown }));
}

function edit(group: Command): void {
  withSite(group.command('edit <comment> <text>'))
    .description(COMMENTS.edit)
    .action(async (typed: string, text: string, options: SiteOptions) => {
      const client = clientFor(options);
      const id = wholeNumber(typed);
      const params = { site: await siteFor(client, options), comment: id };
      const { data } = await client.call('editComment', { params, body: { text } });
      if (options.json) printJson(data);
      else tellOf(say(COMMENTS.edited, { id }), data);
    });
  for (const [name, isDone, description, said] of [
    ['done', true, COMMENTS.done, COMMENTS.isDone],
    ['reopen', false, COMMENTS.reopen, COMMENTS.isOpen],
  ] as const)
    withSite(group.command(`${name} <comment>`))
      .description(description)
      .action(async (typed: string, options: SiteOptions) => {
        const client = clientFor(options);
        const id = wholeNumber(typed);
        const params = { site: await siteFor(client, options), comment: id };
        const { data } = await client.call('editComment', { params, body: { isDone } });
        if (options.json) printJson(data);
        else print(say(said, { id }));
      });
}
