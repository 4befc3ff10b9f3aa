import type { OpenFindingResource } from '@pragmatica/contract';

export interface FindingCounts {
  readonly error: number;
  readonly warning: number;
  readonly advice: number;
}

/** How many findings each snippet is a subject of, by its key; snippets without any are not there. */
export function countBySnippet(
  findings: readonly Pick<OpenFindingResource, 'severity' | 'subjects'>[],
): ReadonlyMap<string, FindingCounts> {
  const counts = new Map<string, FindingCounts>();
  for (const { severity, subjects } of findings)
    for (const snippet of new Set(subjects.map((subject) => subject.snippet))) {
      const before = counts.get(snippet) ?? { error: 0, warning: 0, advice: 0 };
      counts.set(snippet, { ...before, [severity]: before[severity] + 1 });
    }
  return counts;
}
