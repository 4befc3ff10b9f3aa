import type { PolicyReport } from '@pragmatica/core';

/** Reports that are alike, counted. */
export interface CountedReport extends PolicyReport {
  readonly count: number;
}

/** Kinds of reports that are kept until they are taken; what is more is lost, as it would be from one who sends too much. */
const MOST = 500;

/** Counts what browsers report until somebody takes it: a storm of reports costs as much as a few. */
export class ReportCounter {
  #counted = new Map<string, CountedReport>();

  add(report: PolicyReport): void {
    const { host, directive, blocked, source, sample, isEnforced } = report;
    const key = JSON.stringify([host, directive, blocked, source, sample, isEnforced]);
    const known = this.#counted.get(key);
    if (known) this.#counted.set(key, { ...known, count: known.count + 1 });
    else if (this.#counted.size < MOST) this.#counted.set(key, { ...report, count: 1 });
  }

  /** What came since it was asked last. */
  take(): readonly CountedReport[] {
    const counted = [...this.#counted.values()];
    this.#counted = new Map();
    return counted;
  }
}
