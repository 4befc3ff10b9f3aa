import type { ApiClient, TrailCheckEvent } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { CliError, EXIT } from '../../errors.js';
import { colour, print, printJson, printProse, Progress, when } from '../../output.js';
import { HISTORY } from '../../texts/history.js';
import { PLAN } from '../../texts/plan.js';
import { say } from '../../texts/say.js';

type Checked = Extract<TrailCheckEvent, { readonly type: 'done' }>;

const HEAD = /^\d{1,10}:[0-9a-f]{64}$/;

/** Whether the trail is whole. */
export function chain(group: Command): void {
  withCommon(group.command('head'))
    .description(HISTORY.headCommand)
    .action(async (options: CommonOptions) => {
      const { data } = await clientFor(options).call('showTrailHead', {});
      if (options.json) printJson(data);
      else print(`${data.number}:${data.hash}`);
    });
  withCommon(group.command('verify'))
    .description(HISTORY.verify)
    .option('--head <head>', HISTORY.verifyHead)
    .action(async ({ head, ...options }: CommonOptions & { readonly head?: string }) => {
      if (head !== undefined && !HEAD.test(head.trim())) throw new CliError(HISTORY.headForm);
      const checked = await verified(clientFor(options), head?.trim());
      if (options.json) printJson(checked);
      else report(checked);
      if (!checked.isWhole) process.exitCode = EXIT.found;
    });
}

async function verified(client: ApiClient, head: string | undefined): Promise<Checked> {
  const abort = new AbortController();
  const stop = (): void => abort.abort();
  process.once('SIGINT', stop);
  const progress = new Progress();
  try {
    const query = head === undefined ? {} : { head };
    for await (const event of client.stream('verifyTrail', { query }, abort.signal)) {
      if (event.type === 'done') return event;
      const { checked, total } = event;
      progress.update(say(HISTORY.progress, { checked, total }));
    }
  } finally {
    progress.end();
    process.off('SIGINT', stop);
  }
  throw new CliError(PLAN.serviceBrokeOff, EXIT.failed);
}

function report({ isWhole, links, entries, faults, problems, head }: Checked): void {
  if (isWhole) printProse(colour.green(say(HISTORY.whole, { links })));
  else printProse(colour.red(say(HISTORY.broken, { faults, links })));
  for (const { number, at, message } of problems)
    printProse(`  ${say(HISTORY.fault, { number, when: at === null ? '' : when(at), message })}`);
  if (faults > problems.length) print(`  ${say(HISTORY.more, { count: faults - problems.length })}`);
  if (isWhole && entries < links) printProse(say(HISTORY.kept, { count: links - entries }));
  print(say(HISTORY.head, { head: `${head.number}:${head.hash}` }));
}
