import { CHECKS, type Area, type Finding } from '@pragmatica/core';
import { XMLBuilder } from 'fast-xml-parser';
import { isFailure, type Checked } from './types.js';
import { REPORT } from '../texts/report.js';
import { say } from '../texts/say.js';

/** What XML 1.0 cannot hold, not even escaped (section 2.2): control characters, halves of pairs, two non-characters. */
const NOT_XML = /(?![\t\n\r])[\p{Cc}\p{Cs}\ufffe\uffff]/gu;

interface Case {
  readonly '@name': string;
  readonly '@classname': string;
  readonly '@time': '0';
  readonly failure?: { readonly '@message': string; readonly '@type': string; readonly '#text': string };
  readonly skipped?: { readonly '@message': string };
  readonly 'system-out'?: string;
}

/**
 * The findings as a JUnit report, for programs that run tests: a suite for each area; in it a case for each finding, and
 * one that passes for each check that finds nothing.
 */
export function toJunit(checked: Checked): string {
  const areas = [...new Set(CHECKS.map(({ area }) => area))];
  const suites = areas.map((area) => suite(area, casesOf(area, checked)));
  const sum = (name: '@tests' | '@failures' | '@skipped'): number =>
    suites.reduce((total, entry) => total + entry[name], 0);
  const builder = new XMLBuilder({ attributeNamePrefix: '@', ignoreAttributes: false, format: true });
  return builder.build({
    '?xml': { '@version': '1.0', '@encoding': 'UTF-8' },
    testsuites: {
      '@name': `pragmatica check: ${plain(checked.set)}`,
      '@tests': sum('@tests'),
      '@failures': sum('@failures'),
      '@errors': 0,
      '@skipped': sum('@skipped'),
      testsuite: suites,
    },
  });
}

function suite(area: Area, cases: readonly Case[]) {
  return {
    '@name': area,
    '@tests': cases.length,
    '@failures': cases.filter(({ failure }) => failure).length,
    '@errors': 0,
    '@skipped': cases.filter(({ skipped }) => skipped).length,
    testcase: cases,
  };
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

function plain(text: string): string {
  return text.replace(NOT_XML, '\ufffd');
}
