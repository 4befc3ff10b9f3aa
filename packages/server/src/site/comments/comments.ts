import type { CommentResource, Commented, ToldComment } from '@pragmatica/contract';
import { commentRights, plainChanges, rightsAt, wordFinding, type Access } from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import { deferMessages } from '../../language/speech.js';
import {
  commentById,
  commentedOf,
  commentsOf,
  deleteComment,
  insertComment,
  openComments,
  saveCommentDone,
  saveCommentText,
  type Comment,
  type CommentFilter,
} from '../../storage/comments.js';
import { toPage } from '../../storage/cursor.js';
import { announce } from '../../storage/live.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { audit } from '../../storage/trail.js';
import { say } from '../../texts/say.js';
import { SITE_TEXTS } from '../../texts/site.js';
import type { NewestListing } from '../activity.js';
import { findSnippet } from '../find-snippet.js';
import { findSite, withSiteLock } from '../site-lock.js';
import type { ActingWithin, SiteTools } from '../use-case.js';
import { nobody, tellMentioned, type CommentPost } from './tell-mentioned.js';

/** Who asks, and what they may do. */
interface Reader {
  readonly actor: string;
  readonly access: Access;
}

/** Comments of a site, the newest first. @throws ServiceError 404 */
export async function listComments(
  store: Store,
  key: string,
  { limit, after, ...filter }: NewestListing & Omit<CommentFilter, 'before'>,
  reader: Reader,
) {
  const site = await findSite(store, key);
  const found = await commentsOf(store, site, { ...filter, before: after?.[0] }, limit + 1);
  const { page, next } = toPage(found, limit, ({ id }) => [id]);
  const items = page.map((comment) => commentResource(comment, site, reader));
  return { items, open: await openComments(store, site), next };
}

/** What there are comments on, and how many. @throws ServiceError 404 */
export async function listCommented(store: Store, key: string): Promise<Commented[]> {
  return commentedOf(store, await findSite(store, key));
}

export interface NewComment {
  readonly text: string;
  /** One of the two. */
  readonly snippet?: string | undefined;
  readonly finding?: string | undefined;
}

/** Comments on a snippet or a finding of the draft, and tells whom it mentions. @throws ServiceError 404 */
export async function addComment(
  { checks, sets, post }: SiteTools & { readonly post: CommentPost },
  key: string,
  { text, snippet, finding }: NewComment,
  { store, actor, access }: ActingWithin,
): Promise<ToldComment> {
  if (finding !== undefined) await checks.prepare(store, key);
  return store.transactional(async (transaction) => {
    const site = await findSite(transaction, key);
    const about =
      finding === undefined
        ? (await findSnippet(transaction, site, snippet!)).snippet.name
        : await titleOf({ checks, sets }, transaction, site, finding);
    const row = { snippet: snippet ?? null, finding: finding ?? null, about, text, by: actor };
    const comment = await findComment(transaction, site, await insertComment(transaction, site, row));
    const told = await tellMentioned(transaction, site, comment, { post });
    await announce(transaction, site, { what: 'comments', by: actor });
    return { ...commentResource(comment, site, { actor, access }), ...told };
  });
}

async function titleOf({ checks, sets }: SiteTools, store: Store, site: Site, id: string): Promise<string> {
  const { snapshot } = await sets.draft(store, site);
  const found = await checks.find(snapshot, await checks.knowledge(store, site));
  const finding = found.find((one) => one.id === id);
  if (!finding) throw new ServiceError('finding-gone', { finding: id });
  return deferMessages(() => wordFinding(finding).title);
}

export interface CommentEdit {
  readonly text?: string | undefined;
  readonly isDone?: boolean | undefined;
}

/** Changes the words of one’s own comment, or says that one is done with. @throws ServiceError 403, 404 */
export async function editComment(
  post: CommentPost,
  key: string,
  id: number,
  { text, isDone }: CommentEdit,
  { store, actor, access }: ActingWithin,
): Promise<ToldComment> {
  return withSiteLock(store, key, async (transaction, site) => {
    const before = await findComment(transaction, site, id);
    const may = mayWith(before, site, { actor, access });
    if (text !== undefined && !may.canEdit) throw new ServiceError('comment-not-yours', {});
    if (isDone !== undefined && !may.canClose) throw new ServiceError('comment-not-to-close', {});
    if (text !== undefined && text !== before.text) await saveCommentText(transaction, id, text);
    if (isDone !== undefined && isDone !== (before.doneAt !== null))
      await saveCommentDone(transaction, id, isDone ? actor : null);
    const comment = await findComment(transaction, site, id);
    // Whom it mentioned before has heard of it.
    const told =
      comment.text === before.text
        ? nobody
        : await tellMentioned(transaction, site, comment, { post, before: before.text });
    await announce(transaction, site, { what: 'comments', by: actor });
    return { ...commentResource(comment, site, { actor, access }), ...told };
  });
}

/** Removes a comment; what it said stays in the trail. @throws ServiceError 403, 404 */
export async function removeComment(
  key: string,
  id: number,
  { store, actor, access }: ActingWithin,
): Promise<void> {
  await withSiteLock(store, key, async (transaction, site) => {
    const comment = await findComment(transaction, site, id);
    if (!mayWith(comment, site, { actor, access }).canRemove)
      throw new ServiceError('comment-not-to-remove', {});
    const { about, by, text } = comment;
    const changes = plainChanges('comment', { [String(id)]: { about, by, text } }, {});
    audit(transaction, site, actor, 'comment', () => say(SITE_TEXTS.removedComment, { by, about }), changes);
    await transaction.flush();
    await deleteComment(transaction, id);
    await announce(transaction, site, { what: 'comments', by: actor });
  });
}

async function findComment(store: Store, site: Site, id: number): Promise<Comment> {
  const found = await commentById(store, site, id);
  if (!found) throw new ServiceError('no-such-comment', { site: site.key, comment: id });
  return found;
}

function mayWith({ by }: Comment, { key }: Site, { actor, access }: Reader) {
  return commentRights(by, actor, rightsAt(access, key));
}

function commentResource(comment: Comment, site: Site, reader: Reader): CommentResource {
  return {
    ...comment,
    at: comment.at.toISOString(),
    editedAt: comment.editedAt?.toISOString() ?? null,
    doneAt: comment.doneAt?.toISOString() ?? null,
    ...mayWith(comment, site, reader),
  };
}
