import type { ApprovalDetail, ApprovalRuleResource } from '@pragmatica/contract';
import { approvalStateWords } from '@pragmatica/core';
import { Argument, type Command } from 'commander';
import { clientFor, normalize, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, note, print, printJson, printProse, table, when } from '../output.js';
import { APPROVALS } from '../texts/approvals.js';
import { say } from '../texts/say.js';
import { wholeNumber } from '../whole-number.js';

const BYTES_PER_KB = 1_000;

interface AskOptions extends SiteOptions {
  readonly message: string;
  readonly release?: number;
}

interface DecideOptions extends SiteOptions {
  readonly note?: string;
}

/** Four eyes: what goes live is looked at by somebody else first. */
export function approval(program: Command): void {
  const group = program
    .command('approval')
    .description(APPROVALS.group)
    .addHelpText('after', APPROVALS.examples);
  rule(group);
  ask(group);
  look(group);
  decide(group);
}

function rule(group: Command): void {
  withSite(group.command('rule'))
    .description(APPROVALS.rule)
    .addArgument(new Argument('[rule]').choices(['required', 'optional']))
    .action(async (wanted: 'required' | 'optional' | undefined, options: SiteOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const found =
        wanted === undefined
          ? (await client.call('listApprovals', { params, query: { limit: 1 } })).data.rule
          : (await client.call('setApprovalRule', { params, body: { isNeeded: wanted === 'required' } }))
              .data;
      if (options.json) printJson(found);
      else printProse(ruleWords(found));
    });
}

function ruleWords({ isNeeded, since, by }: ApprovalRuleResource): string {
  if (!isNeeded || since === null) return APPROVALS.optional;
  return say(APPROVALS.required, { since: when(since), by: by ?? '' });
}

function ask(group: Command): void {
  withSite(group.command('ask'))
    .description(APPROVALS.ask)
    .requiredOption('-m, --message <text>', APPROVALS.message)
    .option('--release <number>', APPROVALS.ofRelease, wholeNumber)
    .action(async ({ message, release, ...options }: AskOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const { etag } = await client.call('showDraft', { params });
      const body = { message, ...(release === undefined ? {} : { release }) };
      const { data } = await client.call('askApproval', { params, ifMatch: etag, body });
      if (options.json) printJson(data);
      else printProse(say(release === undefined ? APPROVALS.asked : APPROVALS.askedRelease, { id: data.id }));
    });
  withSite(group.command('withdraw <id>'))
    .description(APPROVALS.withdraw)
    .action(async (typed: string, options: SiteOptions) => {
      const client = clientFor(options);
      const id = wholeNumber(typed);
      const params = { site: await siteFor(client, options), approval: id };
      await client.call('withdrawApproval', { params });
      if (!options.json) print(say(APPROVALS.withdrawn, { id }));
    });
}

function look(group: Command): void {
  withSite(group.command('list'))
    .description(APPROVALS.list)
    .action(async (options: SiteOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const { data } = await client.call('listApprovals', { params, query: {} });
      if (options.json) {
        printJson(data);
        return;
      }
      printProse(ruleWords(data.rule));
      if (data.items.length === 0) {
        print(APPROVALS.none);
        return;
      }
      const { headState, headAsked, headBy, headWhat } = APPROVALS;
      const rows = data.items.map(({ id, state, requestedAt, requestedBy, message }) => [
        ...[String(id), approvalStateWords(state), when(requestedAt), requestedBy, message],
      ]);
      print(`\n${table(['ID', headState, headAsked, headBy, headWhat], rows)}`);
    });
  withSite(group.command('show <id>'))
    .description(APPROVALS.show)
    .action(async (typed: string, options: SiteOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options), approval: wholeNumber(typed) };
      const { data } = await client.call('showApproval', { params });
      if (options.json) printJson(data);
      else report(data);
    });
}

function decide(group: Command): void {
  for (const [name, decision, description] of [
    ['approve', 'approved', APPROVALS.approve],
    ['decline', 'declined', APPROVALS.decline],
  ] as const)
    withSite(group.command(`${name} <id>`))
      .description(description)
      .option('--note <text>', APPROVALS.noteOption)
      .action(async (typed: string, { note: said = '', ...options }: DecideOptions) => {
        const client = clientFor(options);
        const id = wholeNumber(typed);
        const params = { site: await siteFor(client, options), approval: id };
        const { data } = await client.call('decideApproval', { params, body: { decision, note: said } });
        if (options.json) printJson(data);
        else if (decision === 'declined') print(say(APPROVALS.declined, { id }));
        else printProse(say(data.release === null ? APPROVALS.approved : APPROVALS.approvedRelease, { id }));
      });
  withSite(group.command('link <id> <name>'))
    .description(APPROVALS.link)
    .option('--days <days>', APPROVALS.days, wholeNumber, 7)
    .action(
      async (typed: string, name: string, { days, ...options }: SiteOptions & { readonly days: number }) => {
        const client = clientFor(options);
        const params = { site: await siteFor(client, options), approval: wholeNumber(typed) };
        const { data } = await client.call('linkApproval', { params, body: { name, days } });
        const address = new URL(data.path, normalize(options.server)).href;
        if (options.json) printJson({ ...data, address });
        else {
          printProse(say(APPROVALS.linked, { name, until: when(data.until) }));
          print(`\n  ${colour.bold(address)}`);
        }
      },
    );
}

function report(detail: ApprovalDetail): void {
  const { id, state, message, requestedBy, requestedAt, release, decidedBy, decidedAt, published } = detail;
  printProse(
    say(APPROVALS.title, { id: colour.bold(String(id)), state: approvalStateWords(state), message }),
  );
  printProse(say(APPROVALS.askedBy, { by: requestedBy, when: when(requestedAt) }));
  if (release !== null) print(say(APPROVALS.about, { release }));
  if (decidedBy !== null && decidedAt !== null)
    printProse(say(decidedText(detail), { by: decidedBy, when: when(decidedAt) }));
  if (detail.note !== '') printProse(say(APPROVALS.note, { note: detail.note }));
  if (published !== null) print(say(APPROVALS.published, { release: published }));
  if (state === 'void') note(APPROVALS.isVoid);
  if (state === 'open' || state === 'approved') reportContent(detail);
}

/** What was approved may have been published since, or the draft changed. */
function decidedText({ state }: ApprovalDetail) {
  if (state === 'declined') return APPROVALS.declinedBy;
  return state === 'withdrawn' ? APPROVALS.withdrawnBy : APPROVALS.approvedBy;
}

function reportContent({ changes, code, findings, rehearsal, weight }: ApprovalDetail): void {
  print(`\n${changes.some(({ visible }) => visible) ? APPROVALS.changes : APPROVALS.noChanges}`);
  for (const { message, visible } of changes)
    printProse(`  ${visible ? colour.yellow('•') : colour.dim('·')} ${message}`);
  for (const { part, before, after } of code) {
    print(`\n${say(APPROVALS.codeOf, { part })}`);
    for (const line of lines(before)) print(colour.red(`  - ${line}`));
    for (const line of lines(after)) print(colour.green(`  + ${line}`));
  }
  print(`\n${findings.length > 0 ? APPROVALS.found : APPROVALS.nothingFound}`);
  for (const { severity, title, isNew } of findings)
    printProse(
      `  ${severity === 'error' ? colour.red(severity) : colour.yellow(severity)}  ${title} ${isNew ? APPROVALS.isNew : ''}`.trimEnd(),
    );
  print('');
  if (rehearsal) {
    const text = rehearsal.isWell ? APPROVALS.rehearsed : APPROVALS.rehearsedBadly;
    printProse(say(text, { round: rehearsal.round }));
  } else print(APPROVALS.notRehearsed);
  if (weight)
    printProse(
      say(APPROVALS.weight, {
        kb: Math.round(weight.bytes / BYTES_PER_KB),
        requests: weight.requests,
        isWithin: String(weight.isWithin),
        round: weight.round,
      }),
    );
  else print(APPROVALS.notWeighed);
}

function lines(code: string): string[] {
  return code === '' ? [] : code.trimEnd().split('\n');
}
