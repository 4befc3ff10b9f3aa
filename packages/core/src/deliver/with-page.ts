import type { Ability, Aspect, Delivery } from './delivery.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';
import { fully, partly } from './ability.js';

/** Of ways in which parts come with the page itself, written into it before it reaches the visitor. */
export const WITH_PAGE = {
  seesViews: false,
  isLine: false,
  followsPublishing: true,
  comes: () => 'with-page',
} as const satisfies Partial<Delivery>;

/** What is decided where somebody is asked for each page load, and only what a browser alone knows is left to it. */
export const ASKED_EACH_TIME = {
  devices: 'per-load',
  hours: 'per-load',
  consent: 'per-load',
  visitor: 'in-browser',
} as const satisfies Partial<Delivery['decides']>;

/** What such ways can do alike. */
export const LIKE_THE_PAGE = {
  head: fully(() => DELIVER_TEXTS.asIfThere),
  'body-start': fully(() => DELIVER_TEXTS.asIfThere),
  'body-end': fully(() => DELIVER_TEXTS.asIfThere),
  anchor: fully(() => DELIVER_TEXTS.elementsInPage),
  views: partly(() => DELIVER_TEXTS.oncePerLoad),
  'without-script': fully(() => DELIVER_TEXTS.worksWithoutScript),
  policy: fully(() => DELIVER_TEXTS.ownPolicy),
} as const satisfies Partial<Record<Aspect, Ability>>;
