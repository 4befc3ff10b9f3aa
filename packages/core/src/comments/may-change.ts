import type { Right } from '../rights/index.js';

/** What somebody may do to a comment. */
export interface CommentRights {
  /** Change its words: whoever wrote it. */
  readonly canEdit: boolean;
  /** Say that it is done with, or is not: whoever wrote it, and whoever may edit the site. */
  readonly canClose: boolean;
  /** Remove it: whoever wrote it, and whoever owns the site. */
  readonly canRemove: boolean;
}

/** What somebody may do to a comment of a site. @param rights - that they have at the site */
export function commentRights(by: string, login: string, rights: readonly Right[]): CommentRights {
  const isOwn = by === login;
  return {
    canEdit: isOwn,
    canClose: isOwn || rights.includes('edit'),
    canRemove: isOwn || rights.includes('own'),
  };
}
