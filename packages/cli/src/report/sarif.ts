import { CHECKS, type Evidence, type Finding, type Severity, type Waiver } from '@pragmatica/core';
import type { ArtifactLocation, Location, Log, ReportingDescriptor, Result } from 'sarif';
import type { Checked } from './types.js';
import { REPORT } from '../texts/report.js';
import { say } from '../texts/say.js';

const LEVELS: Readonly<Record<Severity, 'error' | 'warning' | 'note'>> = {
  error: 'error',
  warning: 'warning',
  advice: 'note',
};

/** Stands for the set; a part's key is its address within. */
const BASE = 'SET';

/** The findings as SARIF 2.1.0 (OASIS), for programs that show the results of static analysis. */
export function toSarif({ site, open, waived }: Checked, version: string): Log {
  return {
    $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'Pragmatica', semanticVersion: version, rules: CHECKS.map(toRule) } },
        originalUriBaseIds: {
          [BASE]: { description: { text: say(REPORT.snippetSetSite, { site }) } },
        },
        columnKind: 'utf16CodeUnits',
        results: [
          ...open.map((finding) => toResult(finding)),
          ...waived.map((finding) => toResult(finding, finding.waiver)),
        ],
      },
    ],
  };
}

function toRule({ id, title, why, severity, area }: (typeof CHECKS)[number]): ReportingDescriptor {
  return {
    id,
    shortDescription: { text: title },
    fullDescription: { text: why },
    help: { text: `pragmatica explain ${id}` },
    defaultConfiguration: { level: LEVELS[severity] },
    properties: { tags: [area] },
  };
}

function toResult(finding: Finding, waiver?: Waiver): Result {
  const [first, ...others] = finding.evidence;
  return {
    ruleId: finding.check,
    ruleIndex: CHECKS.findIndex(({ id }) => id === finding.check),
    level: LEVELS[finding.severity],
    message: { text: `${finding.title}. ${finding.advice}` },
    locations: [first ? toLocation(first) : { physicalLocation: { artifactLocation: subjectOf(finding) } }],
    ...(others.length > 0 ? { relatedLocations: others.map(toLocation) } : {}),
    partialFingerprints: { 'finding/v1': finding.id, 'evidence/v1': finding.fingerprint },
    ...(waiver
      ? {
          suppressions: [
            {
              kind: 'external' as const,
              status: 'accepted' as const,
              justification: `${waiver.reason} (${waiver.author}, until ${waiver.until})`,
            },
          ],
        }
      : {}),
  };
}

function toLocation({ part, line, column, range, text, note }: Evidence): Location {
  return {
    message: { text: note },
    physicalLocation: {
      artifactLocation: toArtifact(part),
      region: {
        startLine: line,
        startColumn: column,
        charOffset: range.start,
        charLength: range.end - range.start,
        snippet: { text },
      },
    },
  };
}

/** Where what is found is about the site itself and no snippet. */
const SITE = 'site';

function subjectOf({ subjects }: Finding): ArtifactLocation {
  const [first] = subjects;
  return toArtifact(first?.part ?? first?.snippet ?? SITE);
}

function toArtifact(key: string): ArtifactLocation {
  return { uri: key, uriBaseId: BASE };
}
