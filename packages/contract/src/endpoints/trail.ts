import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { items, site } from './params.js';

const entry = site.extend({ entry: z.coerce.number().int().min(1).max(2_147_483_647) });

/** What was done, when and by whom: of a site and of the installation; and undoing it. */
export const trailEndpoints = {
  listActivity: {
    method: 'GET',
    path: '/sites/{site}/activity',
    summary: 'Who changed what, the newest first',
    needs: { site: 'view' },
    params: site,
    query: schemas.activityQuery,
    response: schemas.activityList,
  },
  showActivity: {
    method: 'GET',
    path: '/sites/{site}/activity/{entry}',
    summary: 'What one change did: before and after',
    needs: { site: 'view' },
    params: entry,
    response: schemas.activityDetail,
  },
  undoActivity: {
    method: 'POST',
    path: '/sites/{site}/activity/{entry}/undo',
    summary:
      'Takes one change back out of the draft that you saw (If-Match), whatever came after it, or says what that would do',
    needs: { site: 'edit' },
    params: entry,
    body: schemas.undoBody,
    response: schemas.undone,
    needsIfMatch: true,
  },
  listRemovedSnippets: {
    method: 'GET',
    path: '/sites/{site}/removed-snippets',
    summary: 'Snippets that were removed from the draft, the last one first',
    needs: { site: 'view' },
    params: site,
    query: schemas.removedQuery,
    response: items(schemas.removedSnippet),
  },
  listTrail: {
    method: 'GET',
    path: '/activity',
    summary: 'Who did what at all sites and to the installation, the newest first',
    needs: { installation: 'own' },
    query: schemas.trailQuery,
    response: schemas.trailList,
  },
  showTrailHead: {
    method: 'GET',
    path: '/activity/head',
    summary: 'Where the chain over the trail ends: keep it elsewhere, and check against it later',
    needs: { installation: 'own' },
    response: schemas.chainHead,
  },
  verifyTrail: {
    method: 'GET',
    path: '/activity/verification',
    summary: 'Reads the whole trail and says whether anybody has changed it',
    needs: { installation: 'own' },
    query: schemas.chainHeadQuery,
    stream: schemas.trailCheckEvent,
  },
} as const satisfies Record<string, Endpoint>;
