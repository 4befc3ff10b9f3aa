import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { hostOfSite } from './params.js';

/** Content policies of a host's pages. */
export const policyEndpoints = {
  showPolicy: {
    method: 'GET',
    path: '/sites/{site}/hosts/{host}/policy',
    summary: 'Which content policies a host’s pages have and need, and what browsers report of them',
    needs: { site: 'view' },
    params: hostOfSite,
    response: schemas.policyView,
  },
  setPolicy: {
    method: 'PUT',
    path: '/sites/{site}/hosts/{host}/policy',
    summary: 'Have the gateway send a content policy, on trial or for good, or leave pages as they are',
    needs: { site: 'publish' },
    params: hostOfSite,
    body: schemas.policyInput,
    response: schemas.policyView,
  },
  clearPolicyReports: {
    method: 'DELETE',
    path: '/sites/{site}/hosts/{host}/policy/reports',
    summary: 'Forget what browsers reported, to see what still comes',
    needs: { site: 'publish' },
    params: hostOfSite,
  },
} as const satisfies Record<string, Endpoint>;
