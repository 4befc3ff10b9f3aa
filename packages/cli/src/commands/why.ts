import type { WhyAnswerResource, WhyEvent } from '@pragmatica/contract';
import { DEVICES, whoWords, type Device } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { Progress, colour, printJson, printProse } from '../output.js';
import { PLAN } from '../texts/plan.js';
import { say } from '../texts/say.js';
import { WHY } from '../texts/visits.js';
import { askOfPage } from '../visits/ask-of-page.js';

interface WhyOptions extends SiteOptions {
  readonly host?: string;
  readonly environment?: 'live' | 'staging';
  readonly at?: string;
  readonly device: Device;
  readonly consent?: string[];
  readonly visitor?: 'first' | 'returning';
  readonly visit: boolean;
  readonly broken?: boolean;
  readonly twice?: boolean;
  readonly early?: boolean;
}

export function why(program: Command): void {
  withSite(program.command('why [snippet] [path]'))
    .description(WHY.description)
    .option('--host <host>', WHY.host)
    .addOption(new Option('--environment <name>', PLAN.liveWhenLeft).choices(['live', 'staging']))
    .option('--at <time>', PLAN.siteSClock)
    .addOption(new Option('--device <device>', 'which').choices(DEVICES).default('desktop'))
    .option('--consent <purpose...>', PLAN.whatVisitorAgreed)
    .addOption(new Option('--visitor <who>', PLAN.eitherWhenLeft).choices(['first', 'returning']))
    .option('--no-visit', WHY.noVisit)
    .option('--broken', WHY.broken)
    .option('--twice', WHY.twice)
    .option('--early', WHY.early)
    .addHelpText('after', WHY.examples)
    .action(async (named: string | undefined, path: string | undefined, options: WhyOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      // A key never begins with a slash, and a path always does.
      if (named === undefined || named.startsWith('/')) {
        assertNone(options, ['at', 'consent', 'visitor'], WHY.onlyWith);
        await askOfPage(client, site, { path: named ?? '/', ...options });
        return;
      }
      assertNone(options, ['broken', 'twice', 'early'], WHY.onlyWithout);
      const snippet = named;
      const { host, environment, at, device, consent, visitor, visit } = options;
      const body = {
        ...{ snippet, path: path ?? '/', device, visit },
        ...(host === undefined ? {} : { host }),
        ...(environment === undefined ? {} : { environment }),
        ...(at === undefined ? {} : { at }),
        ...(consent === undefined ? {} : { consent: consent.flatMap((part) => part.split(',')).join(',') }),
        ...(visitor === undefined ? {} : { visitor }),
      };
      const abort = new AbortController();
      const stop = (): void => abort.abort();
      process.once('SIGINT', stop);
      const progress = new Progress();
      let last: Exclude<WhyEvent, { type: 'visiting' }> | undefined;
      try {
        for await (const event of client.stream('why', { params: { site }, body }, abort.signal)) {
          if (event.type === 'visiting') progress.update(WHY.visiting);
          else last = event;
        }
      } finally {
        progress.end();
        process.off('SIGINT', stop);
      }
      if (!last) throw new CliError(PLAN.serviceBrokeOff, EXIT.failed);
      if (options.json)
        printJson(
          last.type === 'answer' ? { ...last.answer, round: last.round, visit: last.visit } : last.answer,
        );
      else {
        tell(last.answer);
        if (last.type === 'answer')
          printProse(colour.dim(`\n${say(WHY.look, { round: last.round, visit: last.visit })}`));
      }
      if (last.answer.isWell === false) process.exitCode = EXIT.found;
    });
}

/** @throws CliError for an option that has no meaning here */
function assertNone(
  options: WhyOptions,
  names: readonly (keyof WhyOptions)[],
  text: typeof WHY.onlyWith | typeof WHY.onlyWithout,
): void {
  const given = names.find((name) => options[name] !== undefined);
  if (given !== undefined) throw new CliError(say(text, { option: `--${given}` }));
}

const MARKS: Record<WhyAnswerResource['steps'][number]['state'], string> = {
  passed: colour.green('✓'),
  failed: colour.red('✗'),
  none: colour.dim('–'),
  open: colour.yellow('?'),
  'not-reached': colour.dim('·'),
};

function tell(answer: WhyAnswerResource): void {
  printProse(colour.dim(answer.question));
  printProse(`${colour.bold(answer.sentence)}\n`);
  for (const { title, state, message, notes = [] } of answer.steps) {
    const isQuiet = state === 'not-reached' || state === 'none';
    const line = `${title.padEnd(12)}  ${message}`;
    printProse(`  ${MARKS[state]} ${isQuiet ? colour.dim(line) : line}`);
    for (const text of notes) printProse(colour.dim(`    ${' '.repeat(12)}  ${text}`));
  }
  const { cause } = answer;
  if (cause) {
    printProse('');
    if (cause.advice !== '') printProse(say(WHY.todo, { text: cause.advice }));
    printProse(say(WHY.who, { text: whoWords(cause.who) }));
    if (answer.untilWords !== null) printProse(say(WHY.until, { text: answer.untilWords }));
    for (const text of cause.evidence) printProse(colour.dim(say(WHY.evidence, { text })));
  } else if (answer.untilWords !== null) printProse(`\n${say(WHY.until, { text: answer.untilWords })}`);
  for (const hint of answer.hints) printProse(colour.dim(`\n${hint}`));
}
