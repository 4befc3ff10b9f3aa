import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { site } from './params.js';

const id = z.coerce.number().int().min(1);

/** Whether what worked still works, and who is told when it does not. */
export const watchEndpoints = {
  showWatch: {
    method: 'GET',
    path: '/sites/{site}/watch',
    summary: 'How a site is watched, and who is told',
    needs: { site: 'view' },
    params: site,
    response: schemas.watch,
  },
  setWatch: {
    method: 'PUT',
    path: '/sites/{site}/watch',
    summary: 'Set when visits begin by themselves, what follows a release, and who is told',
    needs: { site: 'own' },
    params: site,
    body: schemas.watchInput,
    response: schemas.watch,
    needsIfMatch: true,
  },
  showWatchHistory: {
    method: 'GET',
    path: '/sites/{site}/watch/history',
    summary: 'How the snippets of a host stood after each round of visits',
    needs: { site: 'view' },
    params: site,
    query: schemas.watchHistoryQuery,
    response: schemas.watchHistory,
  },
  addWebhook: {
    method: 'POST',
    path: '/sites/{site}/webhooks',
    summary:
      'Tell a program of what is lost and comes back, of releases and of approvals, signed (Standard Webhooks)',
    needs: { site: 'own' },
    makes: 'webhooks',
    params: site,
    body: schemas.webhookInput,
    response: schemas.webhookMade,
    status: 201,
  },
  removeWebhook: {
    method: 'DELETE',
    path: '/sites/{site}/webhooks/{webhook}',
    summary: 'Tell a program no longer',
    needs: { site: 'own' },
    params: site.extend({ webhook: id }),
  },
  tryNotices: {
    method: 'POST',
    path: '/sites/{site}/notices',
    summary: 'Send a test to everybody who is told',
    needs: { site: 'own' },
    params: site,
    response: schemas.noticeList,
    status: 201,
  },
  listNotices: {
    method: 'GET',
    path: '/sites/{site}/notices',
    summary: 'Notices that were sent, to whom, and whether they arrived, the newest first',
    needs: { site: 'view' },
    params: site,
    query: schemas.newestQuery,
    response: schemas.noticeList,
  },
  sendNotice: {
    method: 'POST',
    path: '/sites/{site}/notices/{notice}/send',
    summary: 'Send a notice that did not arrive once more',
    needs: { site: 'own' },
    params: site.extend({ notice: id }),
    response: schemas.notice,
  },
} as const satisfies Record<string, Endpoint>;
