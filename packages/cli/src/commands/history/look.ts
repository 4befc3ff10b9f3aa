import type { ActivityDetail, ActivityEntry } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../../context.js';
import { colour, print, printJson, printProse, table, when } from '../../output.js';
import { HISTORY } from '../../texts/history.js';
import { say } from '../../texts/say.js';
import { wholeNumber } from '../../whole-number.js';

interface ListOptions extends SiteOptions {
  readonly everywhere?: boolean;
  readonly snippet?: string;
  readonly by?: string;
  readonly search?: string;
  readonly limit: number;
}

/** Shows what was done. */
export function look(group: Command): void {
  withSite(group.command('list'))
    .description(HISTORY.list)
    .option('--everywhere', HISTORY.everywhere)
    .option('--snippet <snippet>', HISTORY.ofSnippet)
    .option('--by <login>', HISTORY.by)
    .option('--search <words>', HISTORY.search)
    .option('--limit <number>', HISTORY.limit, wholeNumber, 20)
    .action(list);
  withSite(group.command('show <id>'))
    .description(HISTORY.show)
    .action(async (typed: string, options: SiteOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options), entry: wholeNumber(typed) };
      const { data } = await client.call('showActivity', { params });
      if (options.json) printJson(data);
      else report(data);
    });
}

async function list({ everywhere, snippet, by, search, limit, ...options }: ListOptions): Promise<void> {
  const client = clientFor(options);
  const filter = {
    limit,
    ...(by === undefined ? {} : { by }),
    ...(search === undefined ? {} : { q: search }),
  };
  if (everywhere) {
    const { items } = (await client.call('listTrail', { query: filter })).data;
    printList(items, options, (entry) => entry.siteName ?? HISTORY.installation);
    return;
  }
  const params = { site: await siteFor(client, options) };
  const query = { ...filter, ...(snippet === undefined ? {} : { snippet }) };
  printList((await client.call('listActivity', { params, query })).data.items, options);
}

function printList<T extends ActivityEntry>(
  items: readonly T[],
  { json }: SiteOptions,
  siteOf?: (entry: T) => string,
): void {
  if (json) {
    printJson(items);
    return;
  }
  if (items.length === 0) {
    print(HISTORY.nothing);
    return;
  }
  const { headEntry, headWhen, headBy, headSite, headWhat } = HISTORY;
  const head = [headEntry, headWhen, headBy, ...(siteOf ? [headSite] : []), headWhat];
  const rows = items.map((entry) => [
    ...[String(entry.id), when(entry.at), byWords(entry)],
    ...(siteOf ? [siteOf(entry)] : []),
    entry.message,
  ]);
  print(table(head, rows));
}

function byWords({ by, token }: ActivityEntry): string {
  return token === null ? by : say(HISTORY.withToken, { by, token });
}

function report(entry: ActivityDetail): void {
  const from = entry.address === null ? '' : say(HISTORY.from, { address: entry.address });
  print(
    `${colour.bold(String(entry.id))}  ${when(entry.at)}  ${byWords(entry)}  ${colour.dim(from)}`.trimEnd(),
  );
  printProse(entry.message);
  if (!entry.canUndo) printProse(colour.dim(HISTORY.nothingInDraft));
  for (const change of entry.changes) {
    print(`\n${colour.bold(say(HISTORY[change.was], { name: change.name }))}`);
    if (change.was !== 'changed') continue;
    if (change.rows.length === 0) print(`  ${HISTORY.onlyOrder}`);
    for (const { what, before, after } of change.rows)
      printProse(
        `  ${say(HISTORY.row, { what, before: before || HISTORY.empty, after: after || HISTORY.empty })}`,
      );
  }
}
