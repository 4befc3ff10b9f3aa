import type { NoticeResource } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, printJson, printProse, table, when } from '../output.js';
import { say } from '../texts/say.js';
import { WATCH } from '../texts/watch.js';
import { wholeNumber } from '../whole-number.js';

export function notices(program: Command): void {
  const command = withSite(program.command('notices')).enablePositionalOptions();
  command
    .description(WATCH.noticesDescription)
    .addHelpText('after', WATCH.noticesExamples)
    .action(async (options: SiteOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const { data } = await client.call('listNotices', { params, query: {} });
      if (options.json) printJson(data.items);
      else if (data.items.length === 0) printProse(WATCH.noticesNone);
      else
        printProse(
          table(
            ['NOTICE', 'WHEN', 'TO', 'STATE', 'SUBJECT'],
            data.items.map((one) => [
              String(one.id),
              when(one.createdAt),
              one.target,
              stateWords(one),
              [one.subject, ...(one.answer === null ? [] : [one.answer])],
            ]),
          ),
        );
    });
  withSite(command.command('test'))
    .description(WATCH.noticesTest)
    .action(async (options: SiteOptions) => {
      const client = clientFor(options);
      const { data } = await client.call('tryNotices', { params: { site: await siteFor(client, options) } });
      if (options.json) printJson(data.items);
      else printProse(say(WATCH.testSent, { targets: data.items.map(({ target }) => target).join(', ') }));
    });
  withSite(command.command('send <notice>'))
    .description(WATCH.noticesSend)
    .action(async (typed: string, options: SiteOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options), notice: wholeNumber(typed) };
      const { data } = await client.call('sendNotice', { params });
      if (options.json) printJson(data);
      else printProse(say(WATCH.sentAgain, { target: data.target }));
    });
}

function stateWords({ state, attempts, nextAt }: NoticeResource): string {
  if (state === 'sent') return colour.green(WATCH.arrived);
  if (state === 'failed') return colour.red(say(WATCH.gaveUp, { attempts }));
  return attempts === 0 || nextAt === null ? WATCH.waits : say(WATCH.waitsAgain, { when: when(nextAt) });
}
