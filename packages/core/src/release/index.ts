export { baggageOf, type Baggage } from './copy.js';
export { difference, type Change, type ChangeKind } from './difference.js';
export {
  canonicalJson,
  orderedParts,
  partKey,
  placementPosition,
  reachOf,
  snapshotDigest,
  type PlacedPart,
  type RecipeLink,
  type Snapshot,
  type SnapshotPart,
  type SnapshotSnippet,
  type SnippetState,
} from './snapshot.js';
export { ranksFor, withSnippet, type UnrankedSnippet } from './with-snippet.js';
export { KEY_PATTERN, keyFromName } from './key.js';
export { tellingLine } from './telling-line.js';
