import { CHECKS, type Area, type Finding } from '@pragmatica/core';
import { junitDocument, plainXml as plain, type JunitCase as Case } from './junit-document.js';
import { isFailure, type Checked } from './types.js';
import { REPORT } from '../texts/report.js';
import { say } from '../texts/say.js';

/**
 * The findings as a JUnit report, for programs that run tests: a suite for each area; in it a case for each finding, and
 * one that passes for each check that finds nothing.
 */
export function toJunit(checked: Checked): string {
  const areas = [...new Set(CHECKS.map(({ area }) => area))];
  const suites = areas.map((area) => [area, casesOf(area, checked)] as const);
  return junitDocument(`pragmatica check: ${checked.set}`, suites);
}

function casesOf(area: Area, { open, waived, failOn }: Checked): Case[] {
  return CHECKS.filter((check) => check.area === area).flatMap(({ id, title }): Case[] => {
    const head = { '@classname': `pragmatica.${area}.${id}`, '@time': '0' as const };
    const name = (finding: Finding): string => plain(`${finding.title} [${finding.id}]`);
    const cases = [
      ...open
        .filter(({ check }) => check === id)
        .map((finding): Case => {
          const { severity } = finding;
          return isFailure(severity, failOn)
            ? {
                '@name': name(finding),
                ...head,
                failure: { '@message': plain(finding.title), '@type': severity, '#text': details(finding) },
              }
            : { '@name': name(finding), ...head, 'system-out': `${severity}: ${details(finding)}` };
        }),
      ...waived
        .filter(({ check }) => check === id)
        .map((finding): Case => {
          const { author, until, reason } = finding.waiver;
          const message = plain(say(REPORT.acceptedAuthorUntil, { author, until, reason }));
          return { '@name': name(finding), ...head, skipped: { '@message': message } };
        }),
    ];
    return cases.length > 0 ? cases : [{ '@name': title, ...head }];
  });
}

function details({ why, advice, evidence }: Finding): string {
  const places = evidence.map(
    ({ part, line, column, note, text }) => `${part}, line ${line}, column ${column}: ${note}\n  ${text}`,
  );
  return plain([...places, why, advice].join('\n'));
}
