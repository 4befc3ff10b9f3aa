export type { AskedDimension, Decided, Delivery } from './delivery.js';
export { folder as folderDelivery } from './folder.js';
export { gateway as gatewayDelivery } from './gateway.js';
export * from './one-line/index.js';
export * from './paste/index.js';
export { DELIVERIES } from './registry.js';
export { undecided, type Undecided } from './undecided.js';
