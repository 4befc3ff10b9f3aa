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
  NAMED_PLACEMENTS,
  isAnchor,
  placementKey,
  placementWords,
  type AnchorPlacement,
  type NamedPlacement,
  type Placement,
} from './placements.js';
export type { InsertOptions, InsertOutcome, InsertPart } from './types.js';
