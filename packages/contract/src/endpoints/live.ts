import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { site } from './params.js';

/** What happens to a site while somebody looks at it. */
export const liveEndpoints = {
  followSite: {
    method: 'GET',
    path: '/sites/{site}/live',
    summary: 'What happens to the site, and who is there, as it happens (server-sent events)',
    needs: { site: 'view' },
    params: site,
    query: schemas.liveQuery,
    stream: schemas.liveEvent,
  },
} as const satisfies Record<string, Endpoint>;
