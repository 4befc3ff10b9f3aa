import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { fieldUses } from '../fields/index.js';
import type { Snapshot } from '../release/index.js';
import { CheckedSet, type Knowledge } from './checked-set.js';
import { CHECKS } from './registry.js';
import { SEVERITIES, type Check, type Finding, type Fix, type Found } from './types.js';

/** Hex digits; 40 bits, far more than the findings of one set need. */
const ID_LENGTH = 10;

/** Everything that the checks find in a set: errors first, then in the order of the registry and of the page. */
export function runChecks(snapshot: Snapshot, knowledge: Knowledge = {}): Finding[] {
  const set = new CheckedSet(snapshot, knowledge);
  const findings = CHECKS.flatMap((check) => toFindings(check, set));
  return findings.sort((a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity));
}

/** What one check finds. Of several things that are about the same, each has an id by its number. */
function toFindings(check: Check, set: CheckedSet): Finding[] {
  const told = new Map<string, number>();
  return [...check.run(set)].map((found) => {
    const identity = JSON.stringify([
      found.subjects.map(({ snippet, part }) => part ?? snippet),
      found.about,
    ]);
    const number = told.get(identity) ?? 0;
    told.set(identity, number + 1);
    return toFinding(check, number === 0 ? found : { ...found, about: `${found.about} ${number}` }, set);
  });
}

/**
 * The id says what the finding is about, so it stays while unrelated things change. The fingerprint also holds the code
 * that shows it, but not where that stands.
 */
function toFinding(check: Check, { about, severity, ...found }: Found, set: CheckedSet): Finding {
  const subjects = found.subjects.map(({ snippet, part }) => part ?? snippet);
  const shown = found.evidence.map(({ part, range: { start, end } }) => [
    part,
    set.codeOf(part).slice(start, end),
  ]);
  const actual = severity ?? check.severity;
  if (found.fix && bakesFields(found.fix, set)) delete found.fix;
  return {
    id: `${check.id}-${shortDigest([check.id, subjects, about])}`,
    fingerprint: shortDigest([actual, shown]),
    check: check.id,
    area: check.area,
    severity: actual,
    why: check.why,
    ...found,
  };
}

/** Code is looked at with its fields filled in: a fix that writes it would put the values in place of them. */
function bakesFields({ changes }: Fix, set: CheckedSet): boolean {
  return changes.some(
    (change) => change.kind === 'edit-code' && fieldUses(set.sourceOf(change.part)).length > 0,
  );
}

function shortDigest(value: unknown): string {
  return bytesToHex(sha256(utf8ToBytes(JSON.stringify(value)))).slice(0, ID_LENGTH);
}

/** @returns undefined for an id that no check has */
export function findCheck(id: string): Check | undefined {
  return CHECKS.find((check) => check.id === id);
}
