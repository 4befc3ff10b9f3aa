import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { site } from './params.js';

/** Sites as files: out of an installation, and into one. */
export const fileEndpoints = {
  importSet: {
    method: 'POST',
    path: '/sites/{site}/draft',
    summary: 'Bring a set into the draft that you saw (If-Match), or see what would change',
    needs: { site: 'edit' },
    makes: 'snippets',
    params: site,
    body: schemas.importInput,
    response: schemas.imported,
    needsIfMatch: true,
  },
  exportSite: {
    method: 'GET',
    path: '/sites/{site}/file',
    summary: 'The whole site as one file',
    needs: { site: 'view' },
    params: site,
    response: schemas.siteFile,
  },
  importSite: {
    method: 'POST',
    path: '/site-files',
    summary: 'Add a site from its file, or see what would come',
    needs: { installation: 'own' },
    makes: 'sites',
    body: schemas.siteFileInput,
    response: schemas.importedSite,
  },
  showSiteSchema: {
    method: 'GET',
    path: '/schemas/site',
    summary: 'The JSON Schema of a site file',
    needs: 'sign-in',
    response: z.record(z.string(), z.unknown()),
  },
} as const satisfies Record<string, Endpoint>;
