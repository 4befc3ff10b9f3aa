import { isInHead } from '../insert/index.js';
import type { Ability, Aspect, Delivery } from './delivery.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';

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
  'body-end': { fit: 'partly', words: t.bodyEnd },
  anchor: { fit: 'fully', words: t.anchor },
  reach: { fit: 'fully', words: t.reach },
  views: { fit: 'fully', words: t.views },
  freshness: { fit: 'fully', words: t.freshness },
  'without-script': { fit: 'not', words: t.withoutScript },
  policy: { fit: 'partly', words: t.policy },
} as const satisfies Partial<Record<Aspect, Ability>>;

/** One script in the head that writes its head parts while the page is being parsed. */
export const line: Delivery = {
  key: 'line',
  name: t.inOrder,
  needs: t.needs,
  decides: IN_BROWSER,
  // An environment has a line of its own.
  onceWords: t.environment,
  seesViews: true,
  isLine: true,
  followsPublishing: true,
  comes: ({ part }) => (isInHead(part.placement) ? 'in-time' : 'late'),
  abilities: {
    ...SHARED,
    head: { fit: 'partly', words: t.head },
    'body-start': { fit: 'partly', words: t.bodyStart },
    cost: { fit: 'partly', words: t.cost },
  },
};

/** The same script, for which no page waits. */
export const asyncLine: Delivery = {
  key: 'async-line',
  name: t.async,
  needs: t.needs,
  decides: IN_BROWSER,
  onceWords: t.environment,
  seesViews: true,
  isLine: true,
  followsPublishing: true,
  comes: () => 'late',
  abilities: {
    ...SHARED,
    head: { fit: 'partly', words: t.lateHead },
    'body-start': { fit: 'partly', words: t.lateBodyStart },
    'body-end': { fit: 'partly', words: t.lateBodyEnd },
    cost: { fit: 'fully', words: t.asyncCost },
  },
};
