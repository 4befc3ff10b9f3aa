import type { Ask } from './check.js';
import type { Knowledge } from './knowledge.js';
import { CHECKS } from './registry.js';

/** Something that nobody knows of a site, and the checks that had to do without it. */
export interface Unknown {
  readonly ask: Ask;
  /** Ids of checks: they looked at the set alone, or could not look at all. */
  readonly checks: readonly string[];
}

/** As far as it matters whether there is any. */
type Had = Pick<Knowledge, 'groups' | 'files' | 'hosts'> & {
  readonly book?: { readonly newest: readonly unknown[] };
};

const IS_KNOWN: Readonly<Record<Ask, (knowledge: Had) => boolean>> = {
  survey: ({ groups = [] }) => groups.length > 0,
  files: ({ files }) => (files?.files.length ?? 0) > 0,
  hosts: ({ hosts = [] }) => hosts.length > 0,
  recipes: ({ book }) => (book?.newest.length ?? 0) > 0,
};

/** What the checks could not know of a site. */
export function unknownTo(knowledge: Had): Unknown[] {
  return (Object.keys(IS_KNOWN) as Ask[]).flatMap((ask) =>
    IS_KNOWN[ask](knowledge)
      ? []
      : [{ ask, checks: CHECKS.filter(({ asks }) => asks?.includes(ask)).map(({ id }) => id) }],
  );
}
