import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { fieldUses } from '../fields/index.js';
import type { SetChange } from '../edit/index.js';
import type { FactsCache } from '../facts/index.js';
import { memoizeByObject } from '../memoize/by-object.js';
import { speechKey } from '../texts/index.js';
import type { Snapshot } from '../snapshot/index.js';
import { CheckedSet } from './checked-set.js';
import type { Knowledge } from './knowledge.js';
import { unreadCode } from './activation/unread-code.js';
import { withoutConsequences } from './consequences.js';
import { FoundSoFar, type FoundByCheck, type PlacedFinding } from './found-so-far.js';
import { CHECKS } from './registry.js';
import { SEVERITIES, type Finding, type Found } from './finding.js';
import { wordFinding } from './word-finding.js';
import type { Check } from './check.js';

/** Hex digits; 40 bits, far more than the findings of one set need. */
const ID_LENGTH = 10;

/** Sets whose findings are kept, by memory: somebody works on one site at a time, or on a few. */
const MOST_KEPT = 4;
const keptOf = memoizeByObject<FactsCache, Map<string, FoundSoFar>>(() => new Map());

/**
 * Everything that the checks find in a set: errors first, then in the order of the registry and of the page. With the
 * same memory in what is known, only what differs from the set before is looked at.
 */
export function runChecks(snapshot: Snapshot, knowledge: Knowledge = {}): Finding[] {
  const kept = knowledge.memory ? keptOf(knowledge.memory) : undefined;
  // What was found is in words.
  const key = `${snapshot.site.key} ${speechKey()}`;
  const known = kept?.get(key);
  const again = known && lookAgain(known, snapshot, knowledge);
  if (again) return again;
  kept?.delete(key);
  const { findings, soFar } = lookAtAll(snapshot, knowledge);
  if (kept && soFar) kept.set(key, soFar());
  for (const oldest of kept?.keys() ?? []) if (kept!.size > MOST_KEPT) kept!.delete(oldest);
  return findings;
}

/** What the checks find in a set, and what it takes to look again after an edit; that is left out where one failed. */
export function lookAtAll(
  snapshot: Snapshot,
  knowledge: Knowledge,
): { findings: Finding[]; soFar: (() => FoundSoFar) | undefined } {
  const set = CheckedSet.of(snapshot, knowledge);
  const all = new Map<Check, FoundByCheck>();
  const failed = new Map<Check, Finding[]>();
  for (const check of CHECKS)
    try {
      all.set(check, { run: runOn(check, 'run', set), runOnWhole: runOn(check, 'runOnWhole', set) });
    } catch (error) {
      failed.set(check, afterFailure(check, snapshot, knowledge, error));
    }
  return {
    findings: told(CHECKS.map((check) => all.get(check) ?? failed.get(check)!)),
    soFar: failed.size === 0 ? () => new FoundSoFar(set, all, runOn) : undefined,
  };
}

/** What the checks find after an edit; undefined where all has to be looked at, or where that does not go well. */
export function lookAgain(
  soFar: FoundSoFar,
  snapshot: Snapshot,
  knowledge: Knowledge,
): Finding[] | undefined {
  try {
    const found = soFar.after(snapshot, knowledge);
    return found && told([...found.values()]);
  } catch {
    // Which check it was, and over which snippets, comes out when all is looked at.
    return undefined;
  }
}

/** What is told of what the checks found, check by check. */
function told(found: readonly (FoundByCheck | Finding[])[]): Finding[] {
  const all = found.flatMap((one) => ('run' in one ? inPageOrder(one).map(({ finding }) => finding) : one));
  const left = withoutConsequences(all, CHECKS);
  return SEVERITIES.flatMap((severity) => left.filter((finding) => finding.severity === severity));
}

function inPageOrder({ run, runOnWhole }: FoundByCheck): readonly PlacedFinding[] {
  if (runOnWhole.length === 0) return run;
  return [...runOnWhole, ...run].sort((a, b) => a.position - b.position);
}

/**
 * What is left of a check that failed: it runs without the snippets over which it fails when they are alone, and those
 * are named. One bad snippet hides nothing of the others.
 */
function afterFailure(check: Check, snapshot: Snapshot, knowledge: Knowledge, error: unknown): Finding[] {
  const found = (snippets: Snapshot['snippets']): Finding[] => {
    const set = CheckedSet.of({ ...snapshot, snippets }, knowledge);
    const all = { run: runOn(check, 'run', set), runOnWhole: runOn(check, 'runOnWhole', set) };
    return inPageOrder(all).map(({ finding }) => finding);
  };
  const fails = (snippets: Snapshot['snippets']): boolean => {
    try {
      found(snippets);
      return false;
    } catch {
      return true;
    }
  };
  const bad = snapshot.snippets.filter((snippet) => fails([snippet]));
  const good = snapshot.snippets.filter((snippet) => !bad.includes(snippet));
  const blamed = bad.length > 0 && !fails(good) ? bad : snapshot.snippets;
  return [...(blamed === bad ? found(good) : []), unfinished(check, blamed, error)];
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

/** What one function of a check finds, in page order. Of several things that are about the same, each has an id by its number. */
function runOn(check: Check, by: 'run' | 'runOnWhole', set: CheckedSet): PlacedFinding[] {
  const reported = new Map<string, number>();
  return [...(check[by]?.(set) ?? [])]
    .map((found) => {
      const identity = JSON.stringify([
        found.subjects.map(({ snippet, part }) => part ?? snippet),
        found.about,
      ]);
      const number = reported.get(identity) ?? 0;
      reported.set(identity, number + 1);
      const numbered = number === 0 ? found : { ...found, about: `${found.about} ${number}` };
      const [first] = found.subjects;
      return { finding: toFinding(check, numbered, set), position: first ? set.positionOf(first) : -1 };
    })
    .sort((a, b) => a.position - b.position);
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
