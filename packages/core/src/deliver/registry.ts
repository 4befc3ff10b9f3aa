import type { Delivery, DeliveryKey } from './delivery.js';
import { folder } from './folder.js';
import { fragments } from './fragments.js';
import { gateway } from './gateway.js';
import { asyncLine, line } from './line.js';
import { middleware } from './middleware.js';
import { pasteDelivery } from './paste-blocks.js';

/** All ways, the fullest first. */
export const DELIVERIES: readonly Delivery[] = [
  gateway,
  line,
  asyncLine,
  pasteDelivery,
  fragments,
  middleware,
  folder,
];

/** @throws RangeError for one that there is not */
export function deliveryOf(key: DeliveryKey): Delivery {
  const found = DELIVERIES.find((one) => one.key === key);
  if (!found) throw new RangeError(key);
  return found;
}
