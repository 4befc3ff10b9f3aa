import type { Delivery } from './delivery.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';

const t = DELIVER_TEXTS.ways.middleware;

/** The site's own server puts the parts in, with core's inserter, as a page streams by. */
export const middleware: Delivery = {
  key: 'middleware',
  name: t.name,
  needs: t.needs,
  decides: {
    environment: 'once',
    devices: 'per-load',
    hours: 'per-load',
    consent: 'per-load',
    visitor: 'in-browser',
  },
  onceWords: t.environment,
  seesViews: false,
  isLine: false,
  comes: () => 'with-page',
  abilities: {
    head: { fit: 'fully', words: DELIVER_TEXTS.asIfThere },
    'body-start': { fit: 'fully', words: DELIVER_TEXTS.asIfThere },
    'body-end': { fit: 'fully', words: DELIVER_TEXTS.asIfThere },
    anchor: { fit: 'fully', words: DELIVER_TEXTS.elementsInPage },
    reach: { fit: 'fully', words: DELIVER_TEXTS.ways.gateway.reach },
    views: { fit: 'partly', words: DELIVER_TEXTS.oncePerLoad },
    freshness: { fit: 'fully', words: t.freshness },
    'without-script': { fit: 'fully', words: DELIVER_TEXTS.worksWithoutScript },
    policy: { fit: 'fully', words: DELIVER_TEXTS.ownPolicy },
    cost: { fit: 'fully', words: t.cost },
  },
};
