import { placementKey } from '../insert/index.js';
import type { SnapshotPart, SnapshotSnippet, SnippetState } from './snapshot.js';

/** Which snippets of a list are wanted; what is left out says nothing. */
export interface SnippetFilter {
  /** Words that must all be there: in names, notes, page rules or code. */
  readonly words?: string | undefined;
  readonly state?: SnippetState | undefined;
  /** Of one of its parts, as `placementKey` writes it. */
  readonly placement?: string | undefined;
}

type Filtered = Pick<
  SnapshotSnippet,
  'key' | 'name' | 'purpose' | 'provider' | 'note' | 'state' | 'pages'
> & { readonly parts: readonly Pick<SnapshotPart, 'placement' | 'code'>[] };

/** Whether a snippet is among those that a filter wants. */
export function snippetFits(snippet: Filtered, { words = '', state, placement }: SnippetFilter): boolean {
  if (state !== undefined && snippet.state !== state) return false;
  if (placement !== undefined && !snippet.parts.some((part) => placementKey(part.placement) === placement))
    return false;
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  if (wanted.length === 0) return true;
  const { key, name, purpose, provider, note, pages, parts } = snippet;
  const text = [
    ...[key, name, purpose, provider, note],
    ...pages.include,
    ...pages.exclude,
    ...parts.map(({ code }) => code),
  ]
    .join('\n')
    .toLowerCase();
  return wanted.every((word) => text.includes(word));
}
