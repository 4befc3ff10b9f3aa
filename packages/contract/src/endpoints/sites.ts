import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { hostOfSite, items, site } from './params.js';

/** Sites with their hosts, fields, pages and activity. */
export const sitesEndpoints = {
  listSites: {
    method: 'GET',
    path: '/sites',
    summary: 'Sites with what needs attention, those that need it most first',
    query: schemas.siteQuery,
    response: schemas.siteList,
  },
  createSite: {
    method: 'POST',
    path: '/sites',
    summary: 'Add a site',
    body: schemas.siteInput,
    response: schemas.site,
    status: 201,
  },
  lookAtAddress: {
    method: 'POST',
    path: '/look',
    summary: 'Look whether a site answers at an address, and what it calls itself; keeps nothing',
    body: schemas.lookInput,
    response: schemas.look,
  },
  showSite: {
    method: 'GET',
    path: '/sites/{site}',
    summary: 'One site',
    params: site,
    response: schemas.site,
  },
  editSite: {
    method: 'PATCH',
    path: '/sites/{site}',
    summary: 'Change a site’s name, time zone or hosts; works at once',
    params: site,
    body: schemas.sitePatch,
    response: schemas.site,
    needsIfMatch: true,
  },
  listAccesses: {
    method: 'GET',
    path: '/sites/{site}/access',
    summary: 'Hosts that are not public, and who gave what opens them; never the secret itself',
    params: site,
    response: items(schemas.hostAccess),
  },
  giveAccess: {
    method: 'PUT',
    path: '/sites/{site}/access/{host}',
    summary: 'Keep what opens a host, for surveys and verification',
    params: hostOfSite,
    body: schemas.hostSecret,
  },
  forgetAccess: {
    method: 'DELETE',
    path: '/sites/{site}/access/{host}',
    summary: 'Forget what opens a host',
    params: hostOfSite,
  },
  listFields: {
    method: 'GET',
    path: '/fields',
    summary: 'The fields of all sites, a row for each, by site',
    query: schemas.fieldQuery,
    response: schemas.fieldList,
  },
  changeFields: {
    method: 'POST',
    path: '/fields',
    summary: 'Give fields of several sites new values; each site by itself, with a result each',
    body: schemas.fieldChanges,
    response: schemas.siteResults,
  },
  listPages: {
    method: 'GET',
    path: '/sites/{site}/pages',
    summary: 'The site’s known pages, from its sitemap',
    params: site,
    query: z.strictObject({ environment: schemas.environment.default('live') }),
    response: schemas.sitePages,
  },
  previewPages: {
    method: 'POST',
    path: '/sites/{site}/pages/preview',
    summary: 'Which of the site’s known pages some page rules hold',
    params: site,
    body: schemas.pages,
    response: schemas.patternPreview,
  },
  listSkeletons: {
    method: 'GET',
    path: '/sites/{site}/skeletons',
    summary: 'What the site’s own pages are made of, each kind once; the checks put parts into them',
    params: site,
    response: items(z.object({ path: z.string(), html: z.string() })),
  },
  listActivity: {
    method: 'GET',
    path: '/sites/{site}/activity',
    summary: 'Who changed what, the newest first',
    params: site,
    query: schemas.newestQuery,
    response: schemas.activityList,
  },
} as const satisfies Record<string, Endpoint>;
