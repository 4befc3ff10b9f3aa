import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { items, site } from './params.js';

const comment = site.extend({ comment: z.coerce.number().int().min(1).max(2_147_483_647) });

/** What people say to each other of snippets and findings. */
export const commentsEndpoints = {
  listComments: {
    method: 'GET',
    path: '/sites/{site}/comments',
    summary: 'Comments on the site’s snippets and findings, the newest first',
    needs: { site: 'view' },
    params: site,
    query: schemas.commentQuery,
    response: schemas.commentList,
  },
  listCommented: {
    method: 'GET',
    path: '/sites/{site}/commented',
    summary: 'Which snippets and findings there are comments on, and how many',
    needs: { site: 'view' },
    params: site,
    response: items(schemas.commented),
  },
  addComment: {
    method: 'POST',
    path: '/sites/{site}/comments',
    summary: 'Comment on a snippet or a finding; whoever is mentioned with @ gets a mail',
    needs: { site: 'view' },
    makes: 'comments',
    params: site,
    body: schemas.commentInput,
    response: schemas.toldComment,
    status: 201,
  },
  editComment: {
    method: 'PATCH',
    path: '/sites/{site}/comments/{comment}',
    summary: 'Change the words of your comment, or say that one is done with',
    needs: { site: 'view' },
    params: comment,
    body: schemas.commentPatch,
    response: schemas.toldComment,
  },
  removeComment: {
    method: 'DELETE',
    path: '/sites/{site}/comments/{comment}',
    summary: 'Remove your comment; owners remove any',
    needs: { site: 'view' },
    params: comment,
  },
} as const satisfies Record<string, Endpoint>;
