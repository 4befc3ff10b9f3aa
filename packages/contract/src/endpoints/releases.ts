import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { site } from './params.js';

/** What was published, and whether it arrived. */
export const releasesEndpoints = {
  listReleases: {
    method: 'GET',
    path: '/sites/{site}/releases',
    summary: 'Releases, the newest first',
    needs: { site: 'view' },
    params: site,
    query: schemas.newestQuery,
    response: schemas.releaseList,
  },
  publish: {
    method: 'POST',
    path: '/sites/{site}/releases',
    summary: 'Publish the draft that you saw (If-Match) as a new release, all or nothing',
    needs: { site: 'publish' },
    params: site,
    body: schemas.releaseInput,
    response: schemas.published,
    status: 201,
    needsIfMatch: true,
  },
  showRelease: {
    method: 'GET',
    path: '/sites/{site}/releases/{release}',
    summary: 'One release with its snapshot',
    needs: { site: 'view' },
    params: site.extend({ release: z.coerce.number().int() }),
    response: schemas.release,
  },
  showEnvironment: {
    method: 'GET',
    path: '/sites/{site}/environments/{environment}',
    summary: 'Which release an environment serves',
    needs: { site: 'view' },
    params: site.extend({ environment: schemas.environment }),
    response: schemas.environmentState,
  },
  restoreRelease: {
    method: 'PUT',
    path: '/sites/{site}/environments/{environment}',
    summary: 'Put a release back into an environment; the draft stays as it is',
    needs: { site: 'publish' },
    params: site.extend({ environment: schemas.environment }),
    body: z.strictObject({ release: z.int() }),
    response: schemas.environmentState,
    needsIfMatch: true,
  },
  verify: {
    method: 'POST',
    path: '/sites/{site}/verifications',
    summary: 'Fetch the live pages and compare them with their page plans',
    needs: { site: 'view' },
    params: site,
    body: schemas.verificationInput,
    stream: schemas.verificationEvent,
  },
} as const satisfies Record<string, Endpoint>;
