export {
  findDependencies,
  isBroughtByLoader,
  isFallback,
  type Dependency,
  type DependencyReason,
  type OrderPart,
  type OrderSet,
  type Verdict,
} from './dependencies.js';
export { allowedPlacements } from './allowed-placements.js';
export { lightestCover } from './cover.js';
export { Precedences } from './graph.js';
export { moveInList, orderLists, type MoveTarget, type PlacementOrder } from './move.js';
export { rightOrder, type Move, type Rearrangement } from './moves.js';
export { happensBefore, isDecidedByOrder, type Happening, type Precedence } from './running-order.js';
export { dependencyWords, moveTitle, moveWords } from './words.js';
