import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { fieldUses } from '../fields/index.js';
import type { SetChange } from '../edit/index.js';
import type { Snapshot } from '../snapshot/index.js';
import { CheckedSet } from './checked-set.js';
import type { Knowledge } from './knowledge.js';
import { unreadCode } from './activation/unread-code.js';
import { withoutConsequences } from './consequences.js';
import { CHECKS } from './registry.js';
import { SEVERITIES, type Finding, type Found } from './finding.js';
import { wordFinding } from './word-finding.js';
import type { Check } from './check.js';

/** Hex digits; 40 bits, far more than the findings of one set need. */
const ID_LENGTH = 10;

/** Everything that the checks find in a set: errors first, then in the order of the registry and of the page. */
export function runChecks(snapshot: Snapshot, knowledge: Knowledge = {}): Finding[] {
  const set = new CheckedSet(snapshot, knowledge);
  const findings = CHECKS.flatMap((check) => {
    try {
      return toFindings(check, set);
    } catch (error) {
      return afterFailure(check, snapshot, knowledge, error);
    }
  });
  return withoutConsequences(findings, CHECKS).sort(
    (a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity),
  );
}

/**
 * What is left of a check that failed: it runs without the snippets over which it fails when they are alone, and those
 * are named. One bad snippet hides nothing of the others.
 */
function afterFailure(check: Check, snapshot: Snapshot, knowledge: Knowledge, error: unknown): Finding[] {
  const without = (snippets: Snapshot['snippets']): CheckedSet =>
    new CheckedSet({ ...snapshot, snippets }, knowledge);
  const fails = (snippets: Snapshot['snippets']): boolean => {
    try {
      toFindings(check, without(snippets));
      return false;
    } catch {
      return true;
    }
  };
  const bad = snapshot.snippets.filter((snippet) => fails([snippet]));
  const good = snapshot.snippets.filter((snippet) => !bad.includes(snippet));
  const blamed = bad.length > 0 && !fails(good) ? bad : snapshot.snippets;
  const found = blamed === bad ? toFindings(check, without(good)) : [];
  return [...found, unfinished(check, blamed, error)];
}

function unfinished(check: Check, snippets: Snapshot['snippets'], error: unknown): Finding {
  const names = snippets.slice(0, 3).map(({ name }) => `“${name}”`);
  return wordFinding({
    id: `${check.id}-${shortDigest(['unfinished', snippets.map(({ key }) => key)])}`,
    fingerprint: shortDigest([check.id, String(error)]),
    check: check.id,
    area: check.area,
    severity: 'warning',
    message: {
      id: 'unfinished',
      params: {
        check: check.title,
        names: names.join(', '),
        more: snippets.length - names.length,
        cause: error instanceof Error ? error.message : String(error),
      },
    },
    subjects: snippets.map(({ key, name }) => ({ snippet: key, name })),
    evidence: [],
  });
}

/** What one check finds. Of several things that are about the same, each has an id by its number. */
function toFindings(check: Check, set: CheckedSet): Finding[] {
  const reported = new Map<string, number>();
  return [...check.run(set)].map((found) => {
    const identity = JSON.stringify([
      found.subjects.map(({ snippet, part }) => part ?? snippet),
      found.about,
    ]);
    const number = reported.get(identity) ?? 0;
    reported.set(identity, number + 1);
    return toFinding(check, number === 0 ? found : { ...found, about: `${found.about} ${number}` }, set);
  });
}

/**
 * The id says what the finding is about, so it stays while unrelated things change. The fingerprint also holds the code
 * that shows it, but not where that stands.
 */
function toFinding(check: Check, found: Found, set: CheckedSet): Finding {
  const { about, message, params, severity = check.severity, evidence, fix, ...rest } = found;
  const subjects = found.subjects.map(({ snippet, part }) => part ?? snippet);
  const shown = evidence.map(({ part, range: { start, end } }) => [part, set.codeOf(part).slice(start, end)]);
  return wordFinding({
    id: `${check.id}-${shortDigest([check.id, subjects, about])}`,
    fingerprint: shortDigest([severity, shown]),
    check: check.id,
    area: check.area,
    severity,
    message: { id: message, params },
    ...rest,
    evidence,
    ...(fix && !bakesFields(fix, set) ? { fix: { changes: fix } } : {}),
  });
}

/** Code is looked at with its fields filled in: a fix that writes it would put the values in place of them. */
function bakesFields(changes: readonly SetChange[], set: CheckedSet): boolean {
  return changes.some(
    (change) => change.kind === 'edit-code' && fieldUses(set.sourceOf(change.part)).length > 0,
  );
}

function shortDigest(value: unknown): string {
  return bytesToHex(sha256(utf8ToBytes(JSON.stringify(value)))).slice(0, ID_LENGTH);
}

/** The one finding of a set that could not be checked within bounds: an error, as nothing is known of it. */
export function unfinishedFinding({ snippets }: Snapshot): Finding {
  return wordFinding({
    id: `${unreadCode.id}-${shortDigest('whole set')}`,
    fingerprint: shortDigest(snippets.map(({ key }) => key)),
    check: unreadCode.id,
    area: unreadCode.area,
    severity: 'error',
    message: { id: 'unfinished-set', params: {} },
    subjects: snippets.map(({ key, name }) => ({ snippet: key, name })),
    evidence: [],
  });
}
