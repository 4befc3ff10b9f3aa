import type { Delivery } from '../deliver/index.js';

/** A way in which hosts of a site get their parts. */
export interface Way {
  readonly delivery: Delivery;
  readonly hosts: readonly string[];
}
