import type { Delivery } from './delivery.js';
import { ASKED_EACH_TIME, LIKE_THE_PAGE, WITH_PAGE } from './with-page.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';
import { fully } from './ability.js';

const t = DELIVER_TEXTS.ways.middleware;

/** The site's own server puts the parts in, with core's inserter, as a page streams by. */
export const middleware: Delivery = {
  ...WITH_PAGE,
  key: 'middleware',
  get name() {
    return t.name;
  },
  get needs() {
    return t.needs;
  },
  decides: { ...ASKED_EACH_TIME, environment: 'once' },
  get onceWords() {
    return t.environment;
  },
  abilities: {
    ...LIKE_THE_PAGE,
    reach: fully(() => DELIVER_TEXTS.ways.gateway.reach),
    freshness: fully(() => t.freshness),
    cost: fully(() => t.cost),
  },
};
