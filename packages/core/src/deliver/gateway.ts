import type { Delivery } from './delivery.js';
import { ASKED_EACH_TIME, LIKE_THE_PAGE, WITH_PAGE } from './with-page.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';
import { fully } from './ability.js';

const t = DELIVER_TEXTS.ways.gateway;

/** A proxy in front of the origin, which puts the parts into each page as it passes. */
export const gateway: Delivery = {
  ...WITH_PAGE,
  key: 'gateway',
  get name() {
    return DELIVER_TEXTS.gateway;
  },
  get needs() {
    return t.needs;
  },
  decides: { ...ASKED_EACH_TIME, environment: 'per-load' },
  onceWords: '',
  abilities: {
    ...LIKE_THE_PAGE,
    anchor: fully(() => t.anchor),
    reach: fully(() => t.reach),
    freshness: fully(() => t.freshness),
    policy: fully(() => t.policy),
    cost: fully(() => t.cost),
  },
};
