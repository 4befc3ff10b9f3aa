import type { VerificationEvent } from '@pragmatica/contract';
import { isDeliveryFault, summarizeDelivery, type DeliveryState } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { Progress, colour, note, print, printJson, table } from '../output.js';
import { PLAN } from '../texts/plan.js';
import { say } from '../texts/say.js';

type PageEvent = Extract<VerificationEvent, { type: 'page' }>;

export function verify(program: Command): void {
  withSite(program.command('verify [paths...]'))
    .description(PLAN.fetchEveryKnown)
    .addOption(new Option('--environment <name>', 'which').choices(['live', 'staging']).default('live'))
    .addHelpText('after', PLAN.exitsWhenAnything)
    .action(async (paths: string[], options: SiteOptions & { environment: 'live' | 'staging' }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const abort = new AbortController();
      process.once('SIGINT', () => abort.abort());
      const progress = new Progress();
      const pages: PageEvent[] = [];
      let isDone = false;
      let start: Extract<VerificationEvent, { type: 'start' }> | undefined;
      const body = { environment: options.environment, ...(paths.length > 0 ? { paths } : {}) };
      try {
        for await (const event of client.stream('verify', { params: { site }, body }, abort.signal)) {
          if (event.type === 'start') start = event;
          else if (event.type === 'page') {
            pages.push(event);
            progress.update(`${pages.length} of ${start?.total ?? '?'}  ${event.path}`);
          } else isDone = true;
        }
      } finally {
        progress.end();
      }
      if (!isDone) throw new CliError(PLAN.serviceBrokeOff, EXIT.failed);
      if (options.json) printJson({ address: start?.address, release: start?.release, pages });
      else report(start!, pages);
      const isWell = pages.every(
        (page) => page.problem === null && !page.parts.some((part) => isDeliveryFault(part.state)),
      );
      if (!isWell) process.exitCode = EXIT.found;
    });
}

const MARKS: Record<DeliveryState, string> = {
  delivered: colour.green('delivered'),
  missing: colour.red('missing'),
  'wrong-place': colour.red(PLAN.wrongPlace),
  twice: colour.red('twice'),
  'left-out': colour.yellow(PLAN.leftOut),
};

function report(
  start: { address: string; release: number; total: number },
  pages: readonly PageEvent[],
): void {
  print(
    say(PLAN.addressReleaseRelease, { address: start.address, release: start.release, count: pages.length }),
  );
  const snippets = summarizeDelivery(pages);
  const rows = snippets.map(({ snippet, name, pages: states }) => [
    colour.bold(snippet),
    states.map(({ state, count: number }) => `${MARKS[state]} ${number}`).join('  '),
    name,
  ]);
  print(rows.length > 0 ? table(['SNIPPET', PLAN.howManyPages, 'NAME'], rows) : PLAN.noSnippetExpected);
  for (const { name, problems } of snippets) {
    for (const { message, paths } of problems) {
      print(`\n${colour.bold(name)}\n  ${message}\n  ${colour.dim(paths.join('  '))}`);
    }
  }
  const failed = pages.filter((page) => page.problem !== null);
  if (failed.length > 0) print(`\n${colour.red(PLAN.pagesCouldNot)}`);
  for (const page of failed) print(`  ${page.path}  ${page.problem!}`);
  if (failed.length === 0 && snippets.every(({ problems }) => problems.length === 0)) {
    note(colour.green(PLAN.everythingStandsWhere));
  }
}
