import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { items } from './params.js';

/** Which languages there are to choose from. */
export const languagesEndpoints = {
  listLanguages: {
    method: 'GET',
    path: '/languages',
    summary: 'The languages that the service speaks',
    needs: 'nothing',
    response: items(schemas.language),
  },
} as const satisfies Record<string, Endpoint>;
