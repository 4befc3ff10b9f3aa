export { moveInList, orderLists, type MoveTarget, type PlacementOrder } from './move.js';
