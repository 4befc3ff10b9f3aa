import type { Delivery } from './delivery.js';
import { ASKED_EACH_TIME, LIKE_THE_PAGE, WITH_PAGE } from './with-page.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';

const t = DELIVER_TEXTS.ways.middleware;

/** The site's own server puts the parts in, with core's inserter, as a page streams by. */
export const middleware: Delivery = {
  ...WITH_PAGE,
  key: 'middleware',
  name: t.name,
  needs: t.needs,
  decides: { ...ASKED_EACH_TIME, environment: 'once' },
  onceWords: t.environment,
  abilities: {
    ...LIKE_THE_PAGE,
    reach: { fit: 'fully', words: DELIVER_TEXTS.ways.gateway.reach },
    freshness: { fit: 'fully', words: t.freshness },
    cost: { fit: 'fully', words: t.cost },
  },
};
