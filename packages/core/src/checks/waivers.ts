import type { Finding, UnwordedFinding } from './finding.js';

/** That somebody accepted a finding for a while, and why. */
export interface Waiver {
  /** Id of the finding. */
  readonly finding: string;
  /** The finding's fingerprint when it was accepted. */
  readonly fingerprint: string;
  readonly reason: string;
  readonly author: string;
  /** Last day on which it holds, `2027-03-31`, in the site's time zone. */
  readonly until: string;
}

export type LapseCause = 'ended' | 'changed';

/** A finding that is back although somebody had accepted it. */
export interface Lapse {
  readonly waiver: Waiver;
  readonly cause: LapseCause;
}

export type OpenFinding<Found = Finding> = Found & { readonly lapsed?: Lapse };

export type WaivedFinding<Found = Finding> = Found & { readonly waiver: Waiver };

export interface WaivedFindings<Found = Finding> {
  /** What asks for attention. */
  readonly open: readonly OpenFinding<Found>[];
  /** What somebody has accepted, with the reason. */
  readonly waived: readonly WaivedFinding<Found>[];
}

/** Checks whose findings nobody may accept: what they find would break the visitor's page. */
const NEVER_WAIVED: ReadonlySet<string> = new Set(['contained']);

/** Whether somebody may accept such a finding. */
export function isWaivable(finding: Pick<Finding, 'check'>): boolean {
  return !NEVER_WAIVED.has(finding.check);
}

/**
 * Parts findings into those that are open and those that were accepted. A waiver follows its finding by the id while
 * other things change; it ends with its last day, and when what the finding shows is not what it was.
 *
 * @param today - the date in the site's time zone, `2027-03-31`
 */
export function applyWaivers<Found extends UnwordedFinding>(
  findings: readonly Found[],
  waivers: readonly Waiver[],
  today: string,
): WaivedFindings<Found> {
  const byFinding = new Map(waivers.map((waiver) => [waiver.finding, waiver]));
  const open: OpenFinding<Found>[] = [];
  const waived: WaivedFinding<Found>[] = [];
  for (const finding of findings) {
    const waiver = byFinding.get(finding.id);
    if (!waiver || !isWaivable(finding)) open.push(finding);
    else if (waiver.fingerprint !== finding.fingerprint)
      open.push({ ...finding, lapsed: { waiver, cause: 'changed' } });
    else if (waiver.until < today) open.push({ ...finding, lapsed: { waiver, cause: 'ended' } });
    else waived.push({ ...finding, waiver });
  }
  return { open, waived };
}

/** The findings of one set that another one does not have. */
export function newFindings<T extends UnwordedFinding>(
  findings: readonly T[],
  before: readonly UnwordedFinding[],
): T[] {
  const known = new Set(before.map(({ id, fingerprint }) => `${id} ${fingerprint}`));
  return findings.filter(({ id, fingerprint }) => !known.has(`${id} ${fingerprint}`));
}

/** How many there are of each severity. */
export function countFindings(findings: readonly Pick<Finding, 'severity'>[]): {
  error: number;
  warning: number;
  advice: number;
} {
  const counts = { error: 0, warning: 0, advice: 0 };
  for (const { severity } of findings) counts[severity]++;
  return counts;
}
