import {
  ApiError,
  type ApiClient,
  type VerificationEvent,
  type VerificationInput,
} from '@pragmatica/contract';
import {
  DEVICES,
  THIRD_PARTIES,
  deliveryOf,
  isDeliveryFault,
  summarizeDelivery,
  type DeliveryState,
  type Device,
} from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { Progress, colour, note, print, printJson, table } from '../output.js';
import { PLAN } from '../texts/plan.js';
import { say } from '../texts/say.js';
import { VISITS } from '../texts/visits.js';
import { onChange } from '../visits/on-change.js';
import { verifyInBrowser, type BrowserOptions } from '../visits/verify-in-browser.js';

type PageEvent = Extract<VerificationEvent, { type: 'page' }>;

export function verify(program: Command): void {
  withSite(program.command('verify [paths...]'))
    .description(PLAN.fetchEveryKnown)
    .addOption(new Option('--environment <name>', 'which').choices(['live', 'staging']).default('live'))
    .addHelpText('after', VISITS.exitsVerify)
    .option('--host <host>', PLAN.onlyThisHost)
    .option('--browser', VISITS.browser)
    .option('--all', VISITS.allPages)
    .option('--draft', VISITS.draft)
    .option('--device <devices>', VISITS.devices, devicesOf)
    .option('--har <folder>', VISITS.har)
    .option('--report <file>', VISITS.report)
    .addOption(new Option('--third-parties <answer>', VISITS.thirdParties).choices(THIRD_PARTIES))
    .addOption(new Option('--format <format>', VISITS.format).choices(FORMATS))
    .option('--no-follow', VISITS.noFollow)
    .addOption(new Option('--watch', VISITS.watch).conflicts('follow'))
    .action(async (paths: string[], options: VerifyOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      if (options.browser !== true) assertPlain(options);
      if (!options.watch) {
        await verifyOnce(client, site, paths, options);
        return;
      }
      const stop = new AbortController();
      for (const name of ['SIGINT', 'SIGTERM'] as const) process.once(name, () => stop.abort());
      const { environment, draft = false } = options;
      let isFirst = true;
      await onChange(
        client,
        site,
        { environment, draft },
        async () => {
          if (!isFirst) note(draft ? VISITS.draftSaved : say(VISITS.otherRelease, { environment }));
          isFirst = false;
          process.exitCode = undefined;
          // One that fails is told, and the next change gets its own try.
          await verifyOnce(client, site, paths, options).catch((error: unknown) => {
            if (stop.signal.aborted) return;
            if (!(error instanceof CliError || error instanceof ApiError)) throw error;
            note(colour.red(error.message));
            process.exitCode = EXIT.failed;
          });
          if (!stop.signal.aborted) note(colour.dim(draft ? VISITS.watchesDraft : VISITS.watchesReleases));
        },
        stop.signal,
      );
    });
}

async function verifyOnce(
  client: ApiClient,
  site: string,
  paths: string[],
  options: VerifyOptions,
): Promise<void> {
  if (options.browser === true) {
    const format = options.format ?? (options.json === true ? 'json' : 'table');
    await verifyInBrowser(client, site, paths, { ...options, format });
    return;
  }
  const reports: Report[] = [];
  for (const host of await hostsOf(client, site, options)) {
    const body = { environment: options.environment, host, ...(paths.length > 0 ? { paths } : {}) };
    const found = await visit(client, site, body);
    reports.push(found);
    if (!options.json) report(found, reports.length > 1);
  }
  const plain = reports.map(({ start: { address, release, host, delivery }, pages }) => ({
    ...{ address, host, delivery, release, pages },
  }));
  if (options.json) printJson(plain.length === 1 ? plain[0]! : plain);
  const isWell = reports.every(({ pages }) =>
    pages.every((page) => page.problem === null && !page.parts.some(({ state }) => isDeliveryFault(state))),
  );
  if (!isWell) process.exitCode = EXIT.found;
}

/** @throws CliError for one that there is not */
function devicesOf(typed: string): Device[] {
  return typed.split(',').map((one) => {
    const found = DEVICES.find((device) => device === one.trim());
    if (!found) throw new CliError(say(VISITS.noSuchDevice, { device: one, known: [...DEVICES] }));
    return found;
  });
}

const FORMATS = ['table', 'json', 'junit'] as const;

interface VerifyOptions extends SiteOptions, Omit<BrowserOptions, 'format'> {
  readonly browser?: boolean;
  readonly watch?: boolean;
  readonly format?: (typeof FORMATS)[number];
}

/** @throws CliError for options that mean nothing without a browser */
function assertPlain({ all, draft, device, har, report, thirdParties, follow, format }: VerifyOptions): void {
  const given = {
    '--all': all,
    '--draft': draft,
    '--device': device,
    '--har': har,
    '--report': report,
    '--third-parties': thirdParties,
    '--no-follow': !follow,
    '--format': format,
  };
  const first = Object.entries(given).find(([, value]) => value !== undefined && value !== false);
  if (first) throw new CliError(say(VISITS.onlyWithBrowser, { option: first[0] }));
}

interface Report {
  readonly start: Extract<VerificationEvent, { type: 'start' }>;
  readonly pages: readonly PageEvent[];
}

/** The host that is named, or all of the environment; where it has none, the service says so. */
async function hostsOf(
  client: ApiClient,
  site: string,
  { host, environment }: VerifyOptions,
): Promise<readonly (string | undefined)[]> {
  if (host !== undefined) return [host];
  const { data } = await client.call('showSite', { params: { site } });
  const hosts = data.hosts.filter((one) => one.environment === environment).map((one) => one.host);
  return hosts.length === 0 ? [undefined] : hosts;
}

async function visit(client: ApiClient, site: string, body: VerificationInput): Promise<Report> {
  const abort = new AbortController();
  const stop = (): void => abort.abort();
  process.once('SIGINT', stop);
  const progress = new Progress();
  const pages: PageEvent[] = [];
  let isDone = false;
  let start: Report['start'] | undefined;
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
    process.off('SIGINT', stop);
  }
  if (!isDone || !start) throw new CliError(PLAN.serviceBrokeOff, EXIT.failed);
  return { start, pages };
}

const MARKS: Record<DeliveryState, string> = {
  delivered: colour.green('delivered'),
  missing: colour.red('missing'),
  'wrong-place': colour.red(PLAN.wrongPlace),
  twice: colour.red('twice'),
  'left-out': colour.yellow(PLAN.leftOut),
};

function report({ start, pages }: Report, isFurther: boolean): void {
  const { address, release, delivery } = start;
  const told = { address, release, count: pages.length };
  if (isFurther) print('');
  print(
    delivery === 'gateway'
      ? say(PLAN.addressReleaseRelease, told)
      : say(PLAN.addressReleaseByWay, { ...told, way: deliveryOf(delivery).name }),
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
