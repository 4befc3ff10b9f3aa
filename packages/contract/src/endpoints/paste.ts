import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { items, site } from './params.js';

/** Blocks to paste into the boxes of a site builder. */
export const pasteEndpoints = {
  listBoxes: {
    method: 'GET',
    path: '/sites/{site}/boxes',
    summary: 'The boxes of the site’s builder, as its owner has described them',
    needs: { site: 'view' },
    params: site,
    response: items(schemas.box),
  },
  setBoxes: {
    method: 'PUT',
    path: '/sites/{site}/boxes',
    summary: 'Describe the boxes of the site’s builder, all of them',
    needs: { site: 'edit' },
    params: site,
    body: schemas.boxesInput,
    response: items(schemas.box),
  },
  showBlocks: {
    method: 'GET',
    path: '/sites/{site}/blocks',
    summary: 'What has to be pasted into which box, and whether it is',
    needs: { site: 'view' },
    params: site,
    query: schemas.blocksQuery,
    response: schemas.blocks,
  },
  tickBlock: {
    method: 'PUT',
    path: '/sites/{site}/blocks/pasted',
    summary: 'Say that a block is pasted now, or that a box is empty',
    needs: { site: 'edit' },
    params: site,
    body: schemas.blockTick,
    response: schemas.blocks,
  },
  showLine: {
    method: 'GET',
    path: '/sites/{site}/line',
    summary: 'The one line that is pasted into the head of all pages',
    needs: { site: 'view' },
    params: site,
    query: schemas.blocksQuery.pick({ environment: true }),
    response: schemas.line,
  },
  checkBlocks: {
    method: 'POST',
    path: '/sites/{site}/blocks/check',
    summary: 'Look at the live pages for what the boxes really hold',
    needs: { site: 'view' },
    params: site,
    query: schemas.blocksQuery.pick({ environment: true }),
    response: schemas.blockCheck,
  },
} as const satisfies Record<string, Endpoint>;
