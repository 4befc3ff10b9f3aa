export { charsetOf } from './encoding.js';
export { insert } from './insert.js';
export { PageInserter, prepareInsertion, type Edit } from './page-inserter.js';
export { CachedPlacesInserter, recordPlaces, type PagePlaces } from './page-places.js';
export { prepareParts, type PreparedParts } from './prepare.js';
export { reasonWords } from './reasons.js';
export { pageEncoding, sniffEncoding } from './encoding.js';
export { writtenCode } from './written-code.js';
export {
  PLACEMENTS,
  isInHead,
  placementTitle,
  ANCHOR_SIDES,
  NAMED_PLACEMENTS,
  anchorName,
  isAnchor,
  placementKey,
  placementWords,
  type AnchorPlacement,
  type AnchorSide,
  type NamedPlacement,
  type Placement,
} from './placements.js';
export { SelectorError, parseSelector } from './selector/parse-selector.js';
export {
  anchorSelector,
  anchorText,
  normalSelector,
  readAnchor,
  selectorText,
  stepText,
} from './selector/selector-text.js';
export type { AttributeTest, Selector, SelectorStep } from './selector/types.js';
export type { InsertOptions, InsertOutcome, InsertPart } from './types.js';
