import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { site } from './params.js';

const finding = site.extend({ finding: z.string().max(200) });

/** What the checks find, and what is done about it. */
export const findingsEndpoints = {
  listFindings: {
    method: 'GET',
    path: '/sites/{site}/findings',
    summary: 'What the checks find in a set',
    needs: { site: 'view' },
    params: site,
    query: z.strictObject({
      of: schemas.setReference.default('draft'),
      severity: schemas.severity.optional(),
      check: z.string().max(100).optional(),
      snippet: schemas.key.optional(),
      against: schemas.setReference.optional().meta({
        description: 'Only what is new against this set.',
      }),
    }),
    response: schemas.findings,
  },
  fixFinding: {
    method: 'POST',
    path: '/sites/{site}/findings/{finding}/fix',
    summary: 'Fix one finding in the draft, or see what that would change',
    needs: { site: 'edit' },
    params: finding,
    body: schemas.fixOneInput,
    response: schemas.fixResult,
  },
  waiveFinding: {
    method: 'POST',
    path: '/sites/{site}/findings/{finding}/waive',
    summary: 'Accept a finding of the draft until a day, with a reason',
    needs: { site: 'edit' },
    makes: 'waivers',
    params: finding,
    body: schemas.waiverInput,
    response: schemas.waiver,
    status: 201,
  },
  removeWaiver: {
    method: 'DELETE',
    path: '/sites/{site}/findings/{finding}/waive',
    summary: 'Take the acceptance of a finding back',
    needs: { site: 'edit' },
    params: finding,
  },
  fixFindings: {
    method: 'POST',
    path: '/sites/{site}/fixes',
    summary:
      'Fix what can safely be fixed in the draft, all of it or by finding; or see what that would change',
    needs: { site: 'edit' },
    params: site,
    body: schemas.fixInput,
    response: schemas.fixResult,
  },
} as const satisfies Record<string, Endpoint>;
