export { charsetOf } from './encoding.js';
export { insert } from './insert.js';
export { PageInserter, prepareParts, type PreparedParts } from './page-inserter.js';
export { reasonWords, type LeftOutReason } from './reasons.js';
export {
  NAMED_PLACEMENTS,
  isAnchor,
  placementKey,
  placementWords,
  type AnchorPlacement,
  type InsertOptions,
  type InsertOutcome,
  type InsertPart,
  type InsertResult,
  type NamedPlacement,
  type Placement,
} from './types.js';
