import type { Delivery } from './delivery.js';
import { folder } from './folder.js';
import { gateway } from './gateway.js';
import { asyncLine, line } from './line.js';
import { pasteDelivery } from './paste-blocks.js';

/** All ways, the fullest first. */
export const DELIVERIES: readonly Delivery[] = [gateway, line, asyncLine, pasteDelivery, folder];
