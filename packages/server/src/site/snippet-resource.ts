import type { SnippetResource } from '@pragmatica/contract';
import type { StoredSnippet } from '../storage/read-draft.js';

/** A snippet as the API shows it. */
export function snippetResource({ snippet, parts }: StoredSnippet): SnippetResource {
  const { include, exclude, updatedAt, key, name, purpose, provider, note, state } = snippet;
  const { limits, needs, version, updatedBy } = snippet;
  return {
    key,
    name,
    purpose,
    provider,
    note,
    state,
    pages: { include, exclude },
    limits,
    needs,
    recipe: snippet.recipe ?? null,
    parts: parts.map(({ placement, rank, code, statement, per }) => ({
      ...{ placement, rank, code, statement, per },
    })),
    version,
    updatedBy,
    updatedAt: updatedAt.toISOString(),
  };
}
