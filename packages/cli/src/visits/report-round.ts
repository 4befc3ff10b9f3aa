import type { RoundSummaryResource, VisitRoundDetail } from '@pragmatica/contract';
import {
  DEVICES,
  RUNGS,
  answeredWords,
  deliveryOf,
  rungTitle,
  whoWords,
  type RungState,
} from '@pragmatica/core';
import { colour, note, printProse, table } from '../output.js';
import { say } from '../texts/say.js';
import { VISITS } from '../texts/visits.js';
import { whoName } from './who-name.js';

const MARKS: Record<RungState, string> = {
  reached: colour.green('✓'),
  failed: colour.red('✗'),
  'not-reached': colour.dim('·'),
  none: colour.dim('–'),
  waiting: colour.yellow(VISITS.waitsOnly),
};

/** What a round found: who came how far, why not further, what meets, what happens twice, what comes before consent, what it costs. */
export function reportRound({ round, visits, summary }: VisitRoundDetail): void {
  const { host, delivery, release, browser, number, isRehearsal } = round;
  printProse(
    say(VISITS.head, {
      ...{ host, number, way: deliveryOf(delivery).name, count: visits.length },
      what: isRehearsal ? VISITS.theDraft : say(VISITS.release, { number: release ?? 0 }),
      browser: browser ?? VISITS.unknownBrowser,
    }),
  );
  reportRungs(summary);
  reportProblems(summary);
  reportScreen(summary);
  reportStages(summary);
  reportReports(summary);
  reportWeights(summary);
  if (summary.failed.length > 0) printProse(`\n${colour.red(VISITS.failedVisits)}`);
  for (const { visit, path, failure } of summary.failed)
    printProse(`  ${say(VISITS.visitFailed, { visit, path, failure })}`);
  if (summary.isWell) note(colour.green(`\n${VISITS.wellHead}`));
}

function reportRungs({ snippets }: RoundSummaryResource): void {
  const rows = snippets.flatMap(({ snippet, name, devices, leftOut }) => {
    if (devices.length === 0)
      return [[colour.dim(snippet), '', ...RUNGS.map(() => ''), colour.dim(leftOut ?? VISITS.leftOut)]];
    const inOrder = DEVICES.toReversed().flatMap((device) => devices.filter((one) => one.device === device));
    return inOrder.map(({ device, rungs }, index) => [
      index === 0 ? colour.bold(snippet) : '',
      device,
      ...RUNGS.map((rung) => MARKS[rungs[rung]]),
      index === 0 ? name : '',
    ]);
  });
  printProse(
    table(['SNIPPET', 'DEVICE', ...RUNGS.map((rung) => rungTitle(rung).toUpperCase()), 'NAME'], rows),
  );
}

function reportProblems({ snippets }: RoundSummaryResource): void {
  for (const { name, problems, intruder } of snippets) {
    for (const { rung, cause, at } of problems) {
      printProse(
        `\n${colour.red('✗')} ${colour.bold(say(VISITS.problem, { name, rung }))} ${colour.dim(places(at))}`,
      );
      printProse(`  ${cause.message}`);
      if (cause.advice !== '') printProse(`  ${say(VISITS.fix, { advice: cause.advice })}`);
      printProse(`  ${say(VISITS.who, { who: whoWords(cause.who) })}`);
      for (const line of cause.evidence) printProse(colour.dim(`  ${line}`));
    }
    if (intruder) {
      printProse(
        `\n${colour.red('✗')} ${colour.bold(say(VISITS.intruder, { name }))} ${colour.dim(places(intruder.at))}`,
      );
      printProse(`  ${intruder.message}`);
      printProse(`  ${say(VISITS.fix, { advice: intruder.advice })}`);
    }
  }
}

function places(at: readonly { readonly path: string; readonly device: string }[]): string {
  const all = [...new Set(at.map(({ path, device }) => `${path} (${device})`))];
  return say(VISITS.atPages, { count: all.length === 1 ? 1 : all.length - 1, first: all[0] ?? '' });
}

function reportScreen({ overlaps, covered, doubled }: RoundSummaryResource): void {
  if (overlaps.length > 0) printProse(`\n${colour.bold(VISITS.overlaps)}`);
  for (const { upper, lower, shared, advice, at } of overlaps) {
    printProse(
      `  ${say(VISITS.meet, { upper: upper.name, lower: lower.name, width: Math.round(shared.width), height: Math.round(shared.height) })}  ${colour.dim(places(at))}`,
    );
    printProse(`    ${advice}`);
  }
  if (covered.length > 0) printProse(`\n${colour.bold(VISITS.covered)}`);
  for (const { by, control, at } of covered)
    printProse(`  ${say(VISITS.covers, { by: by.name, control: control.name })}  ${colour.dim(places(at))}`);
  if (doubled.length > 0) printProse(`\n${colour.bold(VISITS.doubled)}`);
  for (const { kind, url, count, sources, at } of doubled) {
    const text = kind === 'file' ? VISITS.twiceFile : VISITS.twiceReport;
    printProse(`  ${say(text, { url: url.split('?', 1)[0]!, count })}  ${colour.dim(places(at))}`);
    const names = sources.map(({ snippet, name, via }) => {
      const who = snippet === null ? VISITS.page : name;
      return via.length > 1 ? say(VISITS.via, { name: who, via: via[0]! }) : who;
    });
    if (names.length > 0) printProse(`    ${say(VISITS.by, { names })}`);
  }
}

function reportStages({ stages }: RoundSummaryResource): void {
  for (const { stage, disclosures } of stages) {
    if (stage === 'accepted') continue;
    printProse(`\n${colour.bold(stage === 'before' ? VISITS.before : VISITS.refused)}`);
    const rows = disclosures.map(({ snippet, name, stored, hosts }) => [
      whoName({ snippet, name }),
      [
        ...(stored.length === 0
          ? []
          : [say(VISITS.stores, { keys: stored.map(({ key, where }) => `${key} (${where})`) })]),
        ...(hosts.length === 0 ? [] : [say(VISITS.asks, { hosts: hosts.map(({ host }) => host) })]),
      ].join('; '),
    ]);
    printProse(table(['WHO', 'WHAT'], rows));
  }
}

function reportReports({ reports }: RoundSummaryResource): void {
  if (reports.length === 0) return;
  printProse(`\n${colour.bold(VISITS.reports)}`);
  printProse(
    table(
      [VISITS.headWho, VISITS.headHost, VISITS.headReports],
      reports.map(({ snippet, name, host, by }) => [whoName({ snippet, name }), host, answeredWords(by)]),
    ),
  );
}

function reportWeights({ weights }: RoundSummaryResource): void {
  if (weights.length === 0) return;
  printProse(`\n${colour.bold(VISITS.weights)}`);
  printProse(
    table(
      [VISITS.headWho, VISITS.headRequests, VISITS.headKb, VISITS.headBlocks],
      weights.map(({ snippet, name, requests, bytes, blockingMs }) => [
        whoName({ snippet, name }),
        String(requests),
        (bytes / 1_000).toFixed(1),
        String(blockingMs),
      ]),
    ),
  );
}
