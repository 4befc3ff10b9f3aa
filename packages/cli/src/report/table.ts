import { SEVERITIES, type Ask, type Lapse, type OpenFinding, type Severity } from '@pragmatica/core';
import { colour } from '../output.js';
import type { Checked } from './types.js';
import { REPORT } from '../texts/report.js';
import { say } from '../texts/say.js';

const TITLES: Readonly<Record<Severity, (number: number) => string>> = {
  error: (number) => colour.red(say(REPORT.error, { number })),
  warning: (number) => colour.yellow(say(REPORT.warning, { number })),
  advice: (number) => colour.cyan(say(REPORT.numberThinkAbout, { number })),
};

/** The findings for people, the worst first. */
export function toText({
  set = '',
  open,
  waived = [],
  unknown = [],
  isFixable,
}: Pick<Checked, 'open' | 'isFixable'> & Partial<Checked>): string {
  const lines: string[] = [];
  if (open.length === 0) lines.push(say(REPORT.nothingSayChecks, { set }));
  for (const severity of SEVERITIES) {
    const some = open.filter((finding) => finding.severity === severity);
    if (some.length === 0) continue;
    lines.push(`${colour.bold(TITLES[severity](some.length))}\n`);
    for (const finding of some) lines.push(...tell(finding, isFixable), '');
  }
  if (waived.length > 0) {
    lines.push(colour.bold(`${waived.length} accepted`), '');
    for (const { title, id, waiver } of waived)
      lines.push(
        `  ${title}  ${colour.dim(id)}`,
        `    by ${waiver.author} until ${waiver.until}: ${waiver.reason}`,
      );
  }
  if (unknown.length > 0) {
    lines.push(colour.bold(REPORT.notKnown));
    for (const { ask, checks } of unknown)
      lines.push(`  ${say(UNKNOWN[ask], { checks: checks.length })}`, colour.dim(`    ${checks.join(', ')}`));
  }
  return lines.join('\n').trimEnd();
}

const UNKNOWN = {
  survey: REPORT.noSurvey,
  files: REPORT.noFiles,
  hosts: REPORT.noHosts,
  recipes: REPORT.noRecipes,
} as const satisfies Readonly<Record<Ask, string>>;

function tell({ title, why, advice, evidence, fix, id, lapsed }: OpenFinding, isFixable: boolean): string[] {
  return [
    `  ${colour.bold(title)}  ${colour.dim(id)}`,
    ...evidence.map(
      ({ part, line, column, note, text }) =>
        `    ${colour.dim(`${part}, line ${line}, column ${column}:`)} ${note}\n      ${colour.dim(text.replace(/\s+/g, ' '))}`,
    ),
    ...(lapsed ? [`    ${lapseWords(lapsed)}`] : []),
    `    ${why}`,
    `    ${colour.green('→')} ${advice}`,
    ...(fix && isFixable
      ? [say(REPORT.orFixIt, { arrow: colour.green('→'), id, fix: colour.dim(`(${fix.title})`) })]
      : []),
  ];
}

function lapseWords({ waiver, cause }: Lapse): string {
  const was = say(REPORT.authorAcceptedReason, { author: waiver.author, reason: waiver.reason });
  return cause === 'ended'
    ? say(REPORT.wasUntilUntil, { was, until: waiver.until })
    : say(REPORT.wasButWhat, { was });
}
