import {
  watchSettings,
  type WatchHistoryResource,
  type WatchInput,
  type WatchResource,
} from '@pragmatica/contract';
import { THIRD_PARTIES, type ThirdParties } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { colour, note, print, printJson, table, when } from '../output.js';
import { say } from '../texts/say.js';
import { WATCH } from '../texts/watch.js';
import { answersWords, hostAnswer, withAnswers } from '../third-party-rules.js';
import { wholeNumber } from '../whole-number.js';

interface WatchOptions extends SiteOptions {
  readonly host?: string;
}

interface SetOptions extends SiteOptions {
  readonly every?: string;
  readonly afterPublishing?: 'nothing' | 'look' | 'put-back';
  readonly rehearsal?: 'required' | 'optional';
  readonly mail?: string;
  readonly budget?: string;
  readonly thirdParties?: ThirdParties;
  readonly thirdParty?: readonly string[];
}

const SETTABLE = '--every, --after-publishing, --rehearsal, --mail, --budget, --third-parties, --third-party';

export function watch(program: Command): void {
  const command = withSite(program.command('watch')).enablePositionalOptions();
  command
    .description(WATCH.description)
    .option('--host <host>', WATCH.whichHost)
    .addHelpText('after', WATCH.examples)
    .action(async (options: WatchOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const { data: settings } = await client.call('showWatch', { params });
      const { data: history } = await client.call('showWatchHistory', {
        params,
        query: { host: options.host },
      });
      if (options.json) printJson({ settings, history });
      else {
        reportSettings(settings);
        reportHistory(history);
      }
    });
  withSite(command.command('set'))
    .description(WATCH.setDescription)
    .option('--every <cron>', WATCH.every)
    .addOption(new Option('--after-publishing <what>', WATCH.after).choices(['nothing', 'look', 'put-back']))
    .addOption(new Option('--rehearsal <rule>', WATCH.rehearsal).choices(['required', 'optional']))
    .option('--mail <addresses>', WATCH.mail)
    .option('--budget <kb>', WATCH.budget)
    .addOption(new Option('--third-parties <answer>', WATCH.thirdParties).choices(THIRD_PARTIES))
    .option('--third-party <host=answer...>', WATCH.thirdParty)
    .addHelpText('after', WATCH.examples)
    .action(async (options: SetOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const named = (options.thirdParty ?? []).map(hostAnswer);
      const changed = changesOf(options);
      if (Object.keys(changed).length + named.length === 0)
        throw new CliError(say(WATCH.nothingToSet, { options: SETTABLE }));
      const { data, etag } = await client.call('showWatch', { params });
      const body = { ...watchSettings(data), ...changed, hostAnswers: withAnswers(data.hostAnswers, named) };
      const { data: set } = await client.call('setWatch', { params, ifMatch: etag, body });
      if (options.json) printJson(set);
      else reportSettings(set);
    });
}

function changesOf({
  every,
  afterPublishing,
  rehearsal,
  mail,
  budget,
  thirdParties,
}: SetOptions): WatchInput {
  return {
    ...(thirdParties === undefined ? {} : { thirdParties }),
    ...(every === undefined ? {} : { cron: every === 'never' ? null : every }),
    ...(afterPublishing === undefined ? {} : { afterPublishing }),
    ...(rehearsal === undefined ? {} : { needsRehearsal: rehearsal === 'required' }),
    ...(budget === undefined ? {} : { budgetKb: budget === 'none' ? null : wholeNumber(budget) }),
    ...(mail === undefined
      ? {}
      : { mailTo: mail === 'none' ? [] : mail.split(',').map((one) => one.trim()) }),
  };
}

function reportSettings({ words, nextAt, afterPublishing, needsRehearsal, ...data }: WatchResource): void {
  const { mailTo, webhooks, hosts, budgetKb } = data;
  const next = nextAt === null ? '' : when(nextAt);
  print(say(WATCH.headWhen, { when: words === null ? WATCH.never : say(WATCH.next, { words, next }) }));
  print(say(WATCH.headAfter, { what: WATCH[afterPublishing] }));
  print(say(WATCH.headRehearsal, { what: needsRehearsal ? WATCH.required : WATCH.optional }));
  const told = [...mailTo, ...webhooks.map(({ id, url }) => say(WATCH.webhook, { id, url }))];
  print(
    say(WATCH.headBudget, {
      what: budgetKb === null ? WATCH.noBudget : say(WATCH.perPage, { kb: budgetKb }),
    }),
  );
  print(say(WATCH.headThirdParties, { what: answersWords(data) }));
  print(say(WATCH.headTold, { who: told.length === 0 ? WATCH.nobody : told.join('\n                 ') }));
  const byHand = hosts.filter(({ followsPublishing }) => !followsPublishing).map(({ host }) => host);
  if (byHand.length > 0 && afterPublishing !== 'nothing')
    note(say(WATCH.byHand, { hosts: byHand.join(', ') }));
}

const SIGNS = {
  well: colour.green('✓'),
  lost: colour.red('✗'),
  waiting: colour.yellow('~'),
  'left-out': colour.dim('·'),
} as const;

/** Rounds that fit beside each other in a terminal. */
const SHOWN = 24;

function reportHistory({ host, rounds, snippets }: WatchHistoryResource): void {
  if (rounds.length === 0) {
    print(`\n${say(WATCH.noHistory, { host })}`);
    return;
  }
  print(say(WATCH.history, { host }));
  const shown = rounds.slice(-SHOWN);
  const last = shown.at(-1)!.number;
  print(
    table(
      [WATCH.headSnippet, WATCH.headRounds, WATCH.headNow],
      snippets
        .filter(({ cells }) => cells.some(({ state }) => state !== 'left-out'))
        .map(({ name, cells }) => {
          const byRound = new Map(cells.map((cell) => [cell.round, cell]));
          const strip = shown.map(({ number }) => {
            const cell = byRound.get(number);
            return cell ? SIGNS[cell.state] : ' ';
          });
          return [name, strip.join(''), byRound.get(last)?.message ?? ''];
        }),
    ),
  );
  print(WATCH.legend);
}

export function webhook(program: Command): void {
  const group = program.command('webhook').description(WATCH.webhookGroup);
  withSite(group.command('add <url>'))
    .description(WATCH.webhookAdd)
    .action(async (url: string, options: SiteOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const { data } = await client.call('addWebhook', { params, body: { url } });
      if (options.json) printJson(data);
      else {
        print(say(WATCH.webhookAdded, { id: String(data.id), secret: data.secret }));
        note(WATCH.webhookTry);
      }
    });
  withSite(group.command('remove <id>'))
    .description(WATCH.webhookRemove)
    .action(async (typed: string, options: SiteOptions) => {
      const client = clientFor(options);
      const id = wholeNumber(typed);
      await client.call('removeWebhook', { params: { site: await siteFor(client, options), webhook: id } });
      print(say(WATCH.webhookRemoved, { id: String(id) }));
    });
}
