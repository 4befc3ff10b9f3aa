import type { ApiClient, PolicyMode, PolicyResource } from '@pragmatica/contract';
import { allowSource, deliveryOf, denySource, isSourceAllowed } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { colour, note, print, printJson, table, when } from '../output.js';
import { POLICY } from '../texts/policy.js';
import { say } from '../texts/say.js';

type PolicyOptions = SiteOptions & { readonly host?: string };
type Params = { readonly site: string; readonly host: string };

export function policy(program: Command): void {
  const group = program
    .command('policy')
    .description(POLICY.description)
    .addHelpText('after', POLICY.examples);
  command(group, 'show', POLICY.show, true).action(async (options: PolicyOptions) => {
    const { client, params } = await target(options);
    const { data } = await client.call('showPolicy', { params });
    if (options.json) printJson(data);
    else report(data);
  });
  for (const [name, mode, done] of MODES) {
    const one = command(group, name, POLICY[name]);
    if (mode === 'enforce') one.option('--untried', POLICY.untried);
    else if (mode === 'report') one.option('--fresh', POLICY.fresh);
    one.action(async (options: PolicyOptions & { readonly untried?: boolean; readonly fresh?: boolean }) => {
      const { client, params } = await target(options);
      const { untried = false, fresh = false } = options;
      const { data } = await client.call('setPolicy', { params, body: { mode, untried, fresh } });
      if (options.json) printJson(data);
      else print(say(POLICY[done], { host: data.host }));
    });
  }
  command(group, 'allow <directive> <source>', POLICY.allow).action(
    async (directive: string, source: string, options: PolicyOptions) =>
      changeSources(directive, source, options, true),
  );
  command(group, 'deny <directive> <source>', POLICY.deny).action(
    async (directive: string, source: string, options: PolicyOptions) =>
      changeSources(directive, source, options, false),
  );
  command(group, 'clear', POLICY.clear).action(async (options: PolicyOptions) => {
    const { client, params } = await target(options);
    await client.call('clearPolicyReports', { params });
    print(say(POLICY.cleared, { host: params.host }));
  });
}

const MODES = [
  ['try', 'report', 'trialOn'],
  ['enforce', 'enforce', 'enforced'],
  ['off', 'off', 'offNow'],
] as const satisfies readonly (readonly [string, PolicyMode, keyof typeof POLICY])[];

function command(group: Command, name: string, description: string, isDefault = false): Command {
  return withSite(group.command(name, { isDefault }))
    .description(description)
    .option('--host <host>', POLICY.host);
}

async function target(options: PolicyOptions): Promise<{ client: ApiClient; params: Params }> {
  const client = clientFor(options);
  const site = await siteFor(client, options);
  if (options.host !== undefined) return { client, params: { site, host: options.host } };
  const { data } = await client.call('showSite', { params: { site } });
  const host = data.hosts.find(({ environment }) => environment === 'live') ?? data.hosts[0];
  if (!host) throw new CliError(POLICY.noHost);
  return { client, params: { site, host: host.host } };
}

async function changeSources(
  directive: string,
  source: string,
  options: PolicyOptions,
  isAllowed: boolean,
): Promise<void> {
  const { client, params } = await target(options);
  const { data } = await client.call('showPolicy', { params });
  const { own, mode } = data;
  const words = { directive, source };
  if (isSourceAllowed(own, words) === isAllowed) {
    print(say(isAllowed ? POLICY.already : POLICY.notThere, words));
    return;
  }
  const changed = isAllowed ? allowSource(own, words) : denySource(own, words);
  await client.call('setPolicy', { params, body: { mode, own: changed } });
  print(say(isAllowed ? POLICY.allowed : POLICY.denied, words));
}

function report(view: PolicyResource): void {
  const { host } = view;
  print(colour.bold(say(POLICY.mode, { host, mode: view.mode })));
  if (!view.canSend) note(colour.yellow(say(POLICY.notSent, { host, way: deliveryOf(view.delivery).name })));
  if (!view.survey) note(colour.yellow(say(POLICY.noSurvey, { host })));
  if (view.release === null) note(POLICY.noRelease);
  heading(POLICY.needs);
  if (view.needs.length === 0) print(POLICY.needsNothing);
  else
    print(
      table(
        ['DIRECTIVE', 'SOURCE', 'SNIPPETS'],
        view.needs.map(({ directive, source, snippets }) => [
          directive,
          source,
          snippets.length === 0 ? POLICY.line : namesOf(snippets),
        ]),
      ),
    );
  heading(POLICY.present);
  if (view.present.length === 0) print(POLICY.presentNone);
  for (const { from, isReportOnly, value, stopped, needNonce, pages, example } of view.present) {
    print(say(POLICY.presentRow, { pages, example, from, trial: String(isReportOnly) }));
    print(`  ${value}`);
    if (stopped.length > 0) print(colour.red(`  ${say(POLICY.stops, { names: namesOf(stopped) })}`));
    if (needNonce.length > 0)
      print(colour.yellow(`  ${say(POLICY.needsNonce, { names: namesOf(needNonce) })}`));
    if (stopped.length + needNonce.length === 0) print(colour.green(`  ${POLICY.fitsAll}`));
  }
  if (view.survey || !view.isProposed) ownReport(view);
  if (view.kinds.length > 0) heading(POLICY.kinds);
  for (const { policy: text, ...kind } of view.kinds) {
    print(say(POLICY.kind, { pages: kind.pages, example: kind.example, type: kind.type }));
    print(`  ${text}`);
  }
  heading(POLICY.reports);
  if (view.reports.length === 0) print(POLICY.reportsNone);
  for (const { count, path, lastAt, message, allow } of view.reports) {
    print(`${colour.bold(`${count} ×`)} ${message} ${colour.dim(`${path}, ${when(lastAt)}`)}`);
    if (allow) print(colour.dim(say(POLICY.allowHint, allow)));
  }
}

/** What pages without a policy get, and what is allowed on all. */
function ownReport(view: PolicyResource): void {
  heading(say(POLICY.own, { proposed: String(view.isProposed) }));
  for (const [directive, sources] of Object.entries(view.own.directives))
    print(
      `  ${[directive, ...(directive === 'script-src' && view.own.isStrict ? STRICT : []), ...sources].join(' ')}`,
    );
  for (const { directive, source } of view.own.allowed) print(say(POLICY.allowedToo, { directive, source }));
  for (const reason of view.reasons) print(colour.dim(reason));
}

const STRICT = ["'nonce-…'", "'strict-dynamic'"];

function heading(text: string): void {
  print(`\n${colour.bold(text)}`);
}

function namesOf(snippets: readonly { readonly name: string }[]): string {
  return snippets.map(({ name }) => name).join(', ');
}
