import type { Delivery } from './delivery.js';
import { ASKED_EACH_TIME, LIKE_THE_PAGE, WITH_PAGE } from './with-page.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';

const t = DELIVER_TEXTS.ways.gateway;

/** A proxy in front of the origin, which puts the parts into each page as it passes. */
export const gateway: Delivery = {
  ...WITH_PAGE,
  key: 'gateway',
  name: DELIVER_TEXTS.gateway,
  needs: t.needs,
  decides: { ...ASKED_EACH_TIME, environment: 'per-load' },
  onceWords: '',
  abilities: {
    ...LIKE_THE_PAGE,
    anchor: { fit: 'fully', words: t.anchor },
    reach: { fit: 'fully', words: t.reach },
    freshness: { fit: 'fully', words: t.freshness },
    policy: { fit: 'fully', words: t.policy },
    cost: { fit: 'fully', words: t.cost },
  },
};
