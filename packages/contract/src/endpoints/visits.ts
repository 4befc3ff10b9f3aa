import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { site } from './params.js';

const round = site.extend({
  round: z.union([z.literal('latest'), z.coerce.number().int().min(1)]),
});
const visit = round.extend({ visit: z.coerce.number().int().min(1) });

/** Visits of a real browser, and the question why something does not show. */
export const visitsEndpoints = {
  startVisits: {
    method: 'POST',
    path: '/sites/{site}/visit-rounds',
    summary: 'Send a browser to pages of the site, as a new visitor; a worker does it',
    params: site,
    body: schemas.visitRoundInput,
    response: schemas.visitRound,
    status: 201,
  },
  listVisitRounds: {
    method: 'GET',
    path: '/sites/{site}/visit-rounds',
    summary: 'Rounds of visits to the site, the newest first',
    params: site,
    query: schemas.newestQuery,
    response: schemas.visitRoundList,
  },
  showVisitRound: {
    method: 'GET',
    path: '/sites/{site}/visit-rounds/{round}',
    summary: 'One round with its visits and all that they found; "latest" is the newest that came to its end',
    params: round,
    response: schemas.visitRoundDetail,
  },
  showWeight: {
    method: 'GET',
    path: '/sites/{site}/weight',
    summary: 'What pages cost with snippets and without, and what each snippet adds, held against the budget',
    params: site,
    query: schemas.weightQuery,
    response: schemas.siteWeight,
  },
  watchVisits: {
    method: 'GET',
    path: '/sites/{site}/visit-rounds/{round}/progress',
    summary: 'How far a round is, visit by visit, until it is over',
    params: round,
    stream: schemas.visitRoundEvent,
  },
  cancelVisits: {
    method: 'POST',
    path: '/sites/{site}/visit-rounds/{round}/cancel',
    summary: 'End a round; the visits that were made stay',
    params: round,
    response: schemas.visitRound,
  },
  showVisit: {
    method: 'GET',
    path: '/sites/{site}/visit-rounds/{round}/visits/{visit}',
    summary: 'What one visit saw',
    params: visit,
    response: schemas.visitDetail,
  },
  showScreenshot: {
    method: 'GET',
    path: '/sites/{site}/visit-rounds/{round}/visits/{visit}/screenshots/{screenshot}',
    summary: 'A picture of the window during a visit',
    params: visit.extend({ screenshot: z.coerce.number().int().min(0) }),
    response: schemas.screenshot,
  },
  showVisitPage: {
    method: 'GET',
    path: '/sites/{site}/visit-rounds/{round}/visits/{visit}/page',
    summary: 'The page of a visit’s last page load, as it came and as it stood at the end',
    params: visit,
    response: schemas.visitPage,
  },
  exportHar: {
    method: 'GET',
    path: '/sites/{site}/visit-rounds/{round}/visits/{visit}/har',
    summary: 'The requests of a visit as an HTTP Archive (HAR 1.2)',
    params: visit,
    response: schemas.har,
  },
  pagePicture: {
    method: 'POST',
    path: '/sites/{site}/page-pictures',
    summary: 'A picture of a page without the snippets, with the boxes of its elements; or with a part in it',
    params: site,
    body: schemas.pagePictureInput,
    stream: schemas.pagePictureEvent,
  },
  nameElement: {
    method: 'POST',
    path: '/sites/{site}/page-pictures/{picture}/names',
    summary: 'Selectors for an element of a picture, the best for the pages that are meant first',
    params: site.extend({ picture: z.coerce.number().int().min(1) }),
    body: schemas.elementNamesInput,
    response: schemas.elementNames,
  },
  checkPlace: {
    method: 'POST',
    path: '/sites/{site}/place-checks',
    summary: 'On which pages code has a place, before anything is saved',
    params: site,
    body: schemas.placeCheckInput,
    response: schemas.placeCheck,
  },
  why: {
    method: 'POST',
    path: '/sites/{site}/why',
    summary: 'Why a snippet does not show on a page: what settings tell at once, then what a visit sees',
    params: site,
    body: schemas.whyInput,
    stream: schemas.whyEvent,
  },
  findTrouble: {
    method: 'POST',
    path: '/sites/{site}/trouble',
    summary: 'What is wrong on a page, and which snippet does it: visits with and without them tell',
    params: site,
    body: schemas.troubleInput,
    stream: schemas.troubleEvent,
  },
} as const satisfies Record<string, Endpoint>;
