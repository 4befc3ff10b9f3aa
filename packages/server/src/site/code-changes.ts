import { partKey, type Snapshot } from '@pragmatica/core';

/** Code that differs, part by part; where a part is gone the keys of the others have moved, and none is told. */
export function codeChanges(
  before: Snapshot,
  after: Snapshot,
): { part: string; before: string; after: string }[] {
  const now = new Map(after.snippets.map((snippet) => [snippet.key, snippet]));
  return before.snippets.flatMap(({ key, parts }) => {
    const others = now.get(key)?.parts ?? [];
    if (others.length < parts.length) return [];
    return others.flatMap(({ code }, index) => {
      const was = parts[index]?.code ?? '';
      return code === was ? [] : [{ part: partKey(key, index), before: was, after: code }];
    });
  });
}
