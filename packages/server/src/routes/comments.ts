import type { HandlersOf } from '../http/context.js';
import { numberPosition } from '../http/page-position.js';
import {
  addComment,
  editComment,
  listCommented,
  listComments,
  removeComment,
} from '../site/comments/comments.js';
import type { CommentPost } from '../site/comments/tell-mentioned.js';
import type { SiteTools } from '../site/use-case.js';

/** What people say to each other of snippets and findings. */
export function commentHandlers(
  tools: SiteTools,
  post: CommentPost,
): HandlersOf<'listComments' | 'listCommented' | 'addComment' | 'editComment' | 'removeComment'> {
  return {
    async listComments({ params, query: { after, ...query } }, { store, actor, access }) {
      const listing = { ...query, after: numberPosition(after) };
      return { data: await listComments(store, params.site, listing, { actor, access }) };
    },

    async listCommented({ params }, { store }) {
      return { data: { items: await listCommented(store, params.site) } };
    },

    async addComment({ params, body }, context) {
      const data = await addComment({ ...tools, post }, params.site, body, context);
      return { data, location: `/api/v1/sites/${params.site}/comments/${data.id}` };
    },

    async editComment({ params, body }, context) {
      return { data: await editComment(post, params.site, params.comment, body, context) };
    },

    async removeComment({ params }, context) {
      await removeComment(params.site, params.comment, context);
      return { data: undefined };
    },
  };
}
