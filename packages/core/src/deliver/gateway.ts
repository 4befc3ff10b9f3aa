import type { Delivery } from './delivery.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';

/** A proxy in front of the origin, which puts the parts into each page as it passes. */
export const gateway: Delivery = {
  key: 'gateway',
  name: DELIVER_TEXTS.gateway,
  decides: {
    environment: 'per-load',
    devices: 'per-load',
    hours: 'per-load',
    consent: 'per-load',
    visitor: 'in-browser',
  },
  onceWords: '',
};
