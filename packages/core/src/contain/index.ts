export {
  containmentProblem,
  uncontainedParts,
  type Containment,
  type ContainmentProblem,
  type UncontainedPart,
} from './contain.js';
