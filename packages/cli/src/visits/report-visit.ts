import type { VisitDetail } from '@pragmatica/contract';
import { answerWords } from '@pragmatica/core';
import { clipped, colour, print, table } from '../output.js';
import { say } from '../texts/say.js';
import { VISITS } from '../texts/visits.js';
import { whoName } from './who-name.js';

type Load = VisitDetail['loads'][number];
type Owner = Load['requests'][number]['owner'];

const SHOWN = 90;
const FIELDS = 8;
const FIELD = 60;

/** What one visit saw, page load by page load. */
export function reportVisit({ visit, browser, window, steps, loads }: VisitDetail): void {
  print(
    `${colour.bold(visit.title)}  ${colour.dim(`${visit.path} · ${browser} · ${window.width} × ${window.height}`)}`,
  );
  print(colour.dim(visit.because));
  print(`\n${colour.bold(VISITS.steps)}`);
  for (const { words, isDone, note } of steps)
    print(
      `  ${isDone === true ? colour.green('✓') : isDone === false ? colour.red('✗') : '·'} ${words}${note === null ? '' : colour.dim(`  ${note}`)}`,
    );
  for (const load of loads) reportLoad(load);
}

function reportLoad(load: Load): void {
  const { finalUrl, status, requests, exceptions, console: said, violations, stored, views, judged } = load;
  const kb = (requests.reduce((sum, { bytes }) => sum + bytes, 0) / 1_000).toFixed(1);
  print(
    `\n${colour.bold(say(VISITS.load, { url: finalUrl, status: status === null ? VISITS.noAnswer : String(status), requests: requests.length, kb }))}`,
  );
  const names = new Map((judged?.snippets ?? []).map(({ snippet, name }) => [snippet, name]));
  if (judged) {
    print(`\n  ${VISITS.snippets}`);
    for (const { name, expected, because, rungs, missed } of judged.snippets) {
      if (expected === 'left-out') continue;
      const last = missed === undefined ? undefined : rungs.find(({ rung }) => rung === missed);
      const mark = last ? colour.red('✗') : expected === 'waits' ? colour.yellow('?') : colour.green('✓');
      print(
        `    ${mark} ${name}${last ? `: ${last.message}` : expected === 'waits' ? colour.dim(`  ${because ?? ''}`) : ''}`,
      );
    }
  }
  print('');
  print(
    table(
      ['MS', 'STATUS', 'KIND', 'BY', 'ADDRESS'],
      requests.map(({ url, status: answered, failure, kind, startMs, owner }) => [
        String(startMs),
        failure === null ? String(answered ?? '') : colour.red(failure),
        kind,
        ownerName(owner, names),
        clipped(url, SHOWN),
      ]),
    ),
  );
  const ran = judged?.ran ?? [];
  if (ran.length > 0) print(`\n  ${VISITS.ran}`);
  ran.forEach(({ snippet, name, file, count }, index) => {
    const who = whoName({ snippet, name });
    const what = file === null ? VISITS.inPage : clipped(file, SHOWN);
    print(
      `    ${String(index + 1).padStart(2)}  ${who}  ${colour.dim(count === 1 ? what : say(VISITS.times, { what, count }))}`,
    );
  });
  if (exceptions.length > 0) print(`\n  ${VISITS.errors}`);
  for (const { message, at, owner } of exceptions)
    print(
      `    ${colour.red('✗')} ${message}  ${colour.dim(`${ownerName(owner, names)}, ${at.url}:${at.line + 1}:${at.column + 1}`)}`,
    );
  if (violations.length > 0) print(`\n  ${VISITS.blockedByPolicy}`);
  for (const { directive, blocked } of violations) print(`    ${directive}: ${blocked}`);
  const loud = said.filter(({ level }) => level !== 'info');
  if (loud.length > 0) print(`\n  ${VISITS.said}`);
  for (const { level, text } of loud) print(`    ${level}: ${clipped(text, SHOWN)}`);
  if (stored.length > 0) print(`\n  ${VISITS.kept}`);
  for (const { where, key, owner } of stored)
    print(`    ${where}: ${key}  ${colour.dim(ownerName(owner, names))}`);
  reportReports(judged?.reports ?? []);
  if (views.length > 0) print(`\n  ${VISITS.views}`);
  for (const view of views) print(`    ${view}`);
}

/** What was reported to whom: of each report the first fields, as many as can be read at a glance. */
function reportReports(reports: NonNullable<NonNullable<Load['judged']>['reports']>): void {
  if (reports.length > 0) print(`\n  ${VISITS.reported}`);
  for (const { snippet, name, host, by, fields } of reports) {
    const who = whoName({ snippet, name });
    print(`    ${host}  ${colour.dim(`${who}, ${answerWords(by)}`)}`);
    const said = fields
      .slice(0, FIELDS)
      .map((one) => clipped(one.name === '' ? one.value : `${one.name}: ${one.value}`, FIELD));
    if (said.length === 0) continue;
    const more = fields.length - said.length;
    print(
      `      ${more === 0 ? said.join(', ') : say(VISITS.moreFields, { fields: said.join(', '), count: more })}`,
    );
  }
}

function ownerName({ snippet }: Owner, names: ReadonlyMap<string, string>): string {
  if (snippet === undefined) return VISITS.unknown;
  return snippet === null ? VISITS.page : (names.get(snippet) ?? snippet);
}
