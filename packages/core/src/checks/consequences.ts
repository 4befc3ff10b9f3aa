import type { Check } from './check.js';
import type { Finding, Subject } from './finding.js';

/** One cause, one finding: what is left when findings that follow from others are taken away. */
export function withoutConsequences(findings: readonly Finding[], checks: readonly Check[]): Finding[] {
  const byId = new Map(checks.map((check) => [check.id, check]));
  /** What findings are about that explain others, by the check of those. */
  const byFirst = new Map<string, Set<string>>();
  const byAll = new Map<string, ReadonlySet<string>[]>();
  for (const { check, subjects } of findings) {
    const { explains = [], explainsPairs = [] } = byId.get(check) ?? {};
    for (const id of explains) {
      const about = byFirst.get(id) ?? new Set();
      for (const subject of subjects) about.add(keyOf(subject));
      byFirst.set(id, about);
    }
    if (explainsPairs.length === 0) continue;
    const about = new Set(subjects.map(keyOf));
    for (const id of explainsPairs)
      for (const key of about) {
        const lists = byAll.get(`${id} ${key}`);
        if (lists) lists.push(about);
        else byAll.set(`${id} ${key}`, [about]);
      }
  }
  if (byFirst.size + byAll.size === 0) return [...findings];
  return findings.filter(({ check, subjects }) => {
    const first = subjects[0] ? keyOf(subjects[0]) : '';
    if (byFirst.get(check)?.has(first)) return false;
    const together = byAll.get(`${check} ${first}`) ?? [];
    return !together.some((about) => subjects.every((one) => about.has(keyOf(one))));
  });
}

function keyOf({ snippet, part }: Subject): string {
  return part ?? snippet;
}
