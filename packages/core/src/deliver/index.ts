export {
  ASPECTS,
  type Ability,
  type AskedDimension,
  type Aspect,
  type Decided,
  type Delivery,
  type Fit,
} from './delivery.js';
export { folder as folderDelivery } from './folder.js';
export { gateway as gatewayDelivery } from './gateway.js';
export { asyncLine as asyncLineDelivery, line as lineDelivery } from './line.js';
export { pasteDelivery } from './paste-blocks.js';
export * from './one-line/index.js';
export * from './paste/index.js';
export {
  otherWays,
  questionWords,
  recommendWay,
  type OwnerAnswers,
  type OwnerQuestion,
  type Recommendation,
} from './recommend.js';
export { DELIVERIES } from './registry.js';
export { deliveryTable, type TableRow } from './table.js';
export { undecided, type Undecided } from './undecided.js';
