import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { items, site } from './params.js';

/** Links to the blocks to paste, for whoever has the access to the site builder and no account here. */
export const handoverEndpoints = {
  listHandovers: {
    method: 'GET',
    path: '/sites/{site}/handovers',
    summary: 'Links to the blocks to paste that still work',
    needs: { site: 'view' },
    params: site,
    response: items(schemas.handover),
  },
  createHandover: {
    method: 'POST',
    path: '/sites/{site}/handovers',
    summary: 'Make a link to the blocks to paste, for somebody without an account',
    needs: { site: 'edit' },
    makes: 'handovers',
    params: site,
    body: schemas.handoverInput,
    response: schemas.newHandover,
    status: 201,
  },
  endHandover: {
    method: 'DELETE',
    path: '/sites/{site}/handovers/{handover}',
    summary: 'Let a link work no longer',
    needs: { site: 'edit' },
    params: site.extend({ handover: z.coerce.number().int().min(1) }),
  },
  openHandover: {
    method: 'POST',
    path: '/handover',
    summary: 'What whoever has a link is to paste; needs no account',
    needs: 'nothing',
    body: schemas.handoverSecret,
    response: schemas.handoverSheet,
  },
  tickHandover: {
    method: 'POST',
    path: '/handover/pasted',
    summary: 'Say, with a link, that a block is pasted; needs no account',
    needs: 'nothing',
    body: schemas.handoverTick,
    response: schemas.handoverSheet,
  },
} as const satisfies Record<string, Endpoint>;
