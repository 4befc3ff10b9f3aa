import { fieldUses, filledCode } from '../fields/index.js';
import { memoizeByObject } from '../memoize/by-object.js';
import type { EnvironmentName } from '../reach/index.js';
import type { Snapshot, SnapshotSnippet } from './snapshot.js';

const filledSets = memoizeByObject<Snapshot, Map<EnvironmentName, Snapshot>>(() => new Map());

/** A set with all its fields filled in, as an environment gets it. The same object where it has none. */
export function filledSnapshot(snapshot: Snapshot, environment: EnvironmentName): Snapshot {
  const kept = filledSets(snapshot);
  let filled = kept.get(environment);
  if (!filled) kept.set(environment, (filled = fill(snapshot, environment)));
  return filled;
}

function fill(snapshot: Snapshot, environment: EnvironmentName): Snapshot {
  const fields = snapshot.site.fields ?? [];
  if (!snapshot.snippets.some(hasFields)) return snapshot;
  return {
    ...snapshot,
    snippets: snapshot.snippets.map((snippet) =>
      hasFields(snippet)
        ? {
            ...snippet,
            parts: snippet.parts.map((part) => ({
              ...part,
              code: filledCode(part.code, fields, environment),
            })),
          }
        : snippet,
    ),
  };
}

function hasFields({ parts }: SnapshotSnippet): boolean {
  return parts.some(({ code }) => code.includes('@{'));
}

/** Names of the fields in a snippet's code, each once. */
export function fieldNames({ parts }: Pick<SnapshotSnippet, 'parts'>): string[] {
  return [...new Set(parts.flatMap(({ code }) => fieldUses(code).map(({ name }) => name)))];
}
