import type { OpenFinding, Severity, Unknown, WaivedFinding } from '@pragmatica/core';

/** What a report is about. */
export interface Checked {
  /** The set, in words for people: `the draft`. */
  readonly set: string;
  /** The site's key. */
  readonly site: string;
  readonly open: readonly OpenFinding[];
  readonly waived: readonly WaivedFinding[];
  /** Its findings can be fixed with a command: they are the draft's. */
  readonly isFixable: boolean;
  /** What the checks could not know. */
  readonly unknown: readonly Unknown[];
  /** From which severity on the command fails. */
  readonly failOn: Exclude<Severity, 'advice'>;
}

/** Whether a finding makes the command fail. */
export function isFailure(severity: Severity, failOn: Checked['failOn']): boolean {
  return severity === 'error' || (failOn === 'warning' && severity === 'warning');
}
