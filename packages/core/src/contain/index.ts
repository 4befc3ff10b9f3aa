export {
  UNPROVEN,
  containmentProblem,
  wrappedProblem,
  uncontainedParts,
  type Containment,
  type UncontainedPart,
} from './contain.js';
export type { Culprit } from './culprit.js';
export { onPage, type OnPage } from './on-page.js';
export { distinctSkeletons, pageSkeleton, skeletonOf, type PageSkeleton } from './skeleton.js';
export { idsBehind, singleTags, skeletonIds } from './skeleton-facts.js';
export { SINGLE_ELEMENTS } from './single-elements.js';
export { assertShallow } from './tree.js';
