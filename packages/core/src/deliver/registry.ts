import type { Delivery } from './delivery.js';
import { folder } from './folder.js';
import { gateway } from './gateway.js';

/** All ways, the fullest first. */
export const DELIVERIES: readonly Delivery[] = [gateway, folder];
