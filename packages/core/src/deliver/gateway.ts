import type { Delivery } from './delivery.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';

const t = DELIVER_TEXTS.ways.gateway;

/** A proxy in front of the origin, which puts the parts into each page as it passes. */
export const gateway: Delivery = {
  key: 'gateway',
  name: DELIVER_TEXTS.gateway,
  needs: t.needs,
  decides: {
    environment: 'per-load',
    devices: 'per-load',
    hours: 'per-load',
    consent: 'per-load',
    visitor: 'in-browser',
  },
  onceWords: '',
  seesViews: false,
  isLine: false,
  comes: () => 'with-page',
  abilities: {
    head: { fit: 'fully', words: DELIVER_TEXTS.asIfThere },
    'body-start': { fit: 'fully', words: DELIVER_TEXTS.asIfThere },
    'body-end': { fit: 'fully', words: DELIVER_TEXTS.asIfThere },
    anchor: { fit: 'fully', words: t.anchor },
    reach: { fit: 'fully', words: t.reach },
    views: { fit: 'partly', words: DELIVER_TEXTS.oncePerLoad },
    freshness: { fit: 'fully', words: t.freshness },
    'without-script': { fit: 'fully', words: DELIVER_TEXTS.worksWithoutScript },
    policy: { fit: 'fully', words: t.policy },
    cost: { fit: 'fully', words: t.cost },
  },
};
