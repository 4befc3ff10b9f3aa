export {
  ASPECTS,
  DELIVERY_KEYS,
  type Ability,
  type AskedDimension,
  type Coming,
  type DeliveryContext,
  type Aspect,
  type Decided,
  type Delivery,
  type DeliveryKey,
  type Fit,
} from './delivery.js';
export { isCarrier, isCarrierFile, type RunScript } from './carriers.js';
export { folder as folderDelivery } from './folder.js';
export {
  fragmentIncludes,
  fragmentName,
  fragmentPlacement,
  fragmentServer,
  type FragmentIncludes,
} from './fragments.js';
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
export { DELIVERIES, deliveryOf } from './registry.js';
export { deliveryTable, type TableRow } from './table.js';
export { decidedOnce, decidedOnceWords, undecided, type Undecided } from './undecided.js';
