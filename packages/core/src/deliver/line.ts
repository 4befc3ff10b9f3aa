import { isInHead } from '../insert/index.js';
import type { Ability, Aspect, Delivery } from './delivery.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';
import { fully, partly, not } from './ability.js';

const t = DELIVER_TEXTS.ways.line;

const IN_BROWSER = {
  environment: 'once',
  devices: 'in-browser',
  hours: 'in-browser',
  consent: 'in-browser',
  visitor: 'in-browser',
} as const;

/** The same in both forms. */
const SHARED = {
  'body-end': partly(() => t.bodyEnd),
  anchor: fully(() => t.anchor),
  reach: fully(() => t.reach),
  views: fully(() => t.views),
  freshness: fully(() => t.freshness),
  'without-script': not(() => t.withoutScript),
  policy: partly(() => t.policy),
} as const satisfies Partial<Record<Aspect, Ability>>;

/** One script in the head that writes its head parts while the page is being parsed. */
export const line: Delivery = {
  key: 'line',
  get name() {
    return t.inOrder;
  },
  get needs() {
    return t.needs;
  },
  decides: IN_BROWSER,
  // An environment has a line of its own.
  get onceWords() {
    return t.environment;
  },
  seesViews: true,
  isLine: true,
  followsPublishing: true,
  comes: ({ part }) => (isInHead(part.placement) ? 'in-time' : 'late'),
  abilities: {
    ...SHARED,
    head: partly(() => t.head),
    'body-start': partly(() => t.bodyStart),
    cost: partly(() => t.cost),
  },
};

/** The same script, for which no page waits. */
export const asyncLine: Delivery = {
  key: 'async-line',
  get name() {
    return t.async;
  },
  get needs() {
    return t.needs;
  },
  decides: IN_BROWSER,
  get onceWords() {
    return t.environment;
  },
  seesViews: true,
  isLine: true,
  followsPublishing: true,
  comes: () => 'late',
  abilities: {
    ...SHARED,
    head: partly(() => t.lateHead),
    'body-start': partly(() => t.lateBodyStart),
    'body-end': partly(() => t.lateBodyEnd),
    cost: fully(() => t.asyncCost),
  },
};
