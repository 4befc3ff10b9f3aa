import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { site } from './params.js';

/** The set as a whole: order, draft and what it comes to. */
export const setEndpoints = {
  showOrder: {
    method: 'GET',
    path: '/sites/{site}/order',
    summary: 'The order of the draft’s parts',
    needs: { site: 'view' },
    params: site,
    response: schemas.orderLists,
  },
  changeOrder: {
    method: 'PUT',
    path: '/sites/{site}/order',
    summary: 'Change the order within placements; lists that are not named stay',
    needs: { site: 'edit' },
    params: site,
    body: schemas.orderLists,
    response: schemas.orderLists,
    needsIfMatch: true,
  },
  showOrderReport: {
    method: 'GET',
    path: '/sites/{site}/order/report',
    summary: 'What needs what, whether the order is right, and the fewest moves that make it right',
    needs: { site: 'view' },
    params: site,
    query: z.strictObject({ of: schemas.setReference.default('draft') }),
    response: schemas.orderReport,
  },
  rightOrder: {
    method: 'POST',
    path: '/sites/{site}/order/right',
    summary: 'Put the draft into the right order by the fewest moves, or see which',
    needs: { site: 'edit' },
    params: site,
    body: schemas.fixOneInput,
    response: schemas.fixResult,
  },
  showDraft: {
    method: 'GET',
    path: '/sites/{site}/draft',
    summary: 'The draft as a snapshot',
    needs: { site: 'view' },
    params: site,
    response: schemas.draft,
  },
  showDiff: {
    method: 'GET',
    path: '/sites/{site}/diff',
    summary: 'What differs between two sets, in words',
    needs: { site: 'view' },
    params: site,
    query: z.strictObject({
      from: schemas.setReference.default('live'),
      to: schemas.setReference.default('draft'),
    }),
    response: schemas.diff,
  },
  showPlan: {
    method: 'GET',
    path: '/sites/{site}/plan',
    summary: 'What one page load gets, and every reason why the rest is left out',
    needs: { site: 'view' },
    params: site,
    query: schemas.planQuery,
    response: schemas.pagePlan,
  },
  readCode: {
    method: 'POST',
    path: '/read',
    summary:
      'What a piece of code is and does, where it goes, and the parts it is best kept in; it is not run',
    needs: 'sign-in',
    body: schemas.readInput,
    response: schemas.reading,
  },
} as const satisfies Record<string, Endpoint>;
