export {
  VERDICTS,
  findDependencies,
  isBroughtByLoader,
  isFallback,
  type Dependency,
  type OrderPart,
  type OrderSet,
  type Verdict,
} from './dependencies.js';
export { allowedPlacements } from './allowed-placements.js';
export { minimumWeightVertexCover } from './vertex-cover.js';
export { Precedences } from './graph.js';
export { moveInList, orderLists, type PlacementOrder } from './move.js';
export { rightOrder, type Move, type Rearrangement } from './moves.js';
export { happensBefore, type Precedence } from './running-order.js';
export { dependencyWords, moveTitle, moveWords } from './words.js';
