import type { Delivery } from './delivery.js';
import { placeOf } from './paste/place.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';
import { fully, partly, not } from './ability.js';

const t = DELIVER_TEXTS.ways.paste;

/** Text that somebody pastes into the boxes of a site builder. */
export const pasteDelivery: Delivery = {
  key: 'paste',
  get name() {
    return t.name;
  },
  get needs() {
    return t.needs;
  },
  decides: {
    environment: 'once',
    devices: 'in-browser',
    hours: 'in-browser',
    consent: 'in-browser',
    visitor: 'in-browser',
  },
  get onceWords() {
    return t.environment;
  },
  seesViews: false,
  isLine: false,
  followsPublishing: false,
  comes(placed, { snapshot, boxes, pages }) {
    const place = placeOf(placed, snapshot, { boxes, pages });
    if ('reason' in place) return undefined;
    return ({ plain: 'with-page', guarded: 'in-time', moved: 'late' } as const)[place.mode];
  },
  abilities: {
    head: partly(() => t.head),
    'body-start': partly(() => t.bodyStart),
    'body-end': fully(() => t.bodyEnd),
    anchor: partly(() => t.anchor),
    reach: partly(() => t.reach),
    views: partly(() => DELIVER_TEXTS.oncePerLoad),
    freshness: not(() => t.freshness),
    'without-script': partly(() => t.withoutScript),
    policy: fully(() => DELIVER_TEXTS.ownPolicy),
    cost: fully(() => t.cost),
  },
};
