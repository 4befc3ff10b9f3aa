export { canonicalJson, snapshotDigest } from './digest.js';
export { fieldNames, filledSnapshot } from './filled.js';
export { snippetFits, type SnippetFilter } from './filter.js';
export { freezeSet, thawSet, type FrozenSet } from './frozen.js';
export { KEY_PATTERN, keyFromName } from './key.js';
export {
  comparePlaced,
  numberOfPart,
  orderedParts,
  partKey,
  placementPosition,
  snippetOfPart,
  type PlacedPart,
} from './ordered-parts.js';
export { partName } from './part-name.js';
export {
  PART_PERS,
  reachOf,
  type PartPer,
  type RecipeLink,
  type Snapshot,
  type SnapshotPart,
  type SnapshotSnippet,
  type SnippetState,
} from './snapshot.js';
