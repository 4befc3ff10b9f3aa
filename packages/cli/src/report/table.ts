import { SEVERITIES, type Lapse, type OpenFinding, type Severity } from '@pragmatica/core';
import { colour, count } from '../output.js';
import type { Checked } from './types.js';

const TITLES: Readonly<Record<Severity, (number: number) => string>> = {
  error: (number) => colour.red(count(number, 'error')),
  warning: (number) => colour.yellow(count(number, 'warning')),
  advice: (number) => colour.cyan(`${number} to think about`),
};

/** The findings for people, the worst first. */
export function toText({ set, open, waived }: Checked): string {
  const lines: string[] = [];
  if (open.length === 0) lines.push(`Nothing to say: the checks find ${set} in order.`);
  for (const severity of SEVERITIES) {
    const some = open.filter((finding) => finding.severity === severity);
    if (some.length === 0) continue;
    lines.push(`${colour.bold(TITLES[severity](some.length))}\n`);
    for (const finding of some) lines.push(...tell(finding), '');
  }
  if (waived.length > 0) {
    lines.push(colour.bold(`${waived.length} accepted`), '');
    for (const { title, id, waiver } of waived)
      lines.push(
        `  ${title}  ${colour.dim(id)}`,
        `    by ${waiver.author} until ${waiver.until}: ${waiver.reason}`,
      );
  }
  return lines.join('\n').trimEnd();
}

function tell({ title, why, advice, evidence, fix, id, lapsed }: OpenFinding): string[] {
  return [
    `  ${colour.bold(title)}  ${colour.dim(id)}`,
    ...evidence.map(
      ({ part, line, column, note, text }) =>
        `    ${colour.dim(`${part}, line ${line}, column ${column}:`)} ${note}\n      ${colour.dim(text.replace(/\s+/g, ' '))}`,
    ),
    ...(lapsed ? [`    ${lapseWords(lapsed)}`] : []),
    `    ${why}`,
    `    ${colour.green('→')} ${advice}`,
    ...(fix ? [`    ${colour.green('→')} Or: pragmatica fix ${id}  ${colour.dim(`(${fix.title})`)}`] : []),
  ];
}

function lapseWords({ waiver, cause }: Lapse): string {
  const was = `${waiver.author} accepted it (“${waiver.reason}”)`;
  return cause === 'ended'
    ? `${was} until ${waiver.until}; that is over.`
    : `${was}, but what it shows has changed since.`;
}
