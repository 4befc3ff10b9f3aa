import { byObject } from '../by-object.js';
import type { EnvironmentName } from '../reach/index.js';
import type { Snapshot, SnapshotSnippet } from '../release/index.js';
import { writtenValue } from './escape.js';
import type { Field } from './types.js';
import { fieldUses } from './uses.js';
import { fieldValue, fieldValueProblem } from './values.js';

/** Code with its fields' values in place of them. A field that cannot be filled in stays as it is written. */
export function filledCode(code: string, fields: readonly Field[], environment: EnvironmentName): string {
  // Most code has none; looking for the sign is all that it costs.
  if (!code.includes('@{')) return code;
  let filled = '';
  let at = 0;
  for (const { name, start, end, place } of fieldUses(code)) {
    const field = fields.find((candidate) => candidate.name === name);
    const value = field && fieldValue(field, environment);
    const isFit = field && value !== undefined && fieldValueProblem(field.type, value) === undefined;
    const written = isFit ? writtenValue(value, field.type, place) : undefined;
    filled += code.slice(at, start) + (written ?? code.slice(start, end));
    at = end;
  }
  return filled + code.slice(at);
}

const filledSets = byObject<Snapshot, Map<EnvironmentName, Snapshot>>(() => new Map());

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
