import type { Delivery } from './delivery.js';
import { placeOf } from './paste/place.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';

const t = DELIVER_TEXTS.ways.paste;

/** Text that somebody pastes into the boxes of a site builder. */
export const pasteDelivery: Delivery = {
  key: 'paste',
  name: t.name,
  needs: t.needs,
  decides: {
    environment: 'once',
    devices: 'in-browser',
    hours: 'in-browser',
    consent: 'in-browser',
    visitor: 'in-browser',
  },
  onceWords: t.environment,
  seesViews: false,
  isLine: false,
  followsPublishing: false,
  comes(placed, { snapshot, boxes, pages }) {
    const place = placeOf(placed, snapshot, { boxes, pages });
    if ('reason' in place) return undefined;
    return ({ plain: 'with-page', guarded: 'in-time', moved: 'late' } as const)[place.mode];
  },
  abilities: {
    head: { fit: 'partly', words: t.head },
    'body-start': { fit: 'partly', words: t.bodyStart },
    'body-end': { fit: 'fully', words: t.bodyEnd },
    anchor: { fit: 'partly', words: t.anchor },
    reach: { fit: 'partly', words: t.reach },
    views: { fit: 'partly', words: DELIVER_TEXTS.oncePerLoad },
    freshness: { fit: 'not', words: t.freshness },
    'without-script': { fit: 'partly', words: t.withoutScript },
    policy: { fit: 'fully', words: DELIVER_TEXTS.ownPolicy },
    cost: { fit: 'fully', words: t.cost },
  },
};
