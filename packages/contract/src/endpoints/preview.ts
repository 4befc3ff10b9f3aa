import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { site } from './params.js';

/** The draft on the site’s real pages, before anything is published. */
export const previewEndpoints = {
  makePreview: {
    method: 'POST',
    path: '/sites/{site}/previews',
    summary: 'Make an address at which people see the site’s pages with the draft in them, until it ends',
    needs: { site: 'view' },
    params: site,
    body: schemas.previewInput,
    response: schemas.preview,
    status: 201,
  },
} as const satisfies Record<string, Endpoint>;
