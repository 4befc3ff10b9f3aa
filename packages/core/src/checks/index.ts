export { FactsMemory, type Knowledge, type ReadingWatch } from './checked-set.js';
export { EXAMPLE_NOW, exampleKnowledge, exampleRecipe, exampleSet } from './examples.js';
export {
  addedParts,
  applyChanges,
  applyFix,
  mend,
  partChanges,
  snippetsOf,
  type Mended,
  type PartChange,
} from './fixes.js';
export { normalForm } from './normal-form.js';
export { orderReport, worseOrder, type OrderReport } from './order-report.js';
export { openStep } from './activation/open-step.js';
export { CHECKS } from './registry.js';
export { findCheck, runChecks, unfinishedFinding } from './run-checks.js';
export {
  AREAS,
  SEVERITIES,
  type Area,
  type SetChange,
  type Check,
  type Evidence,
  type ExampleSnippet,
  type Finding,
  type Fix,
  type Severity,
  type Subject,
} from './types.js';
export {
  countFindings,
  isWaivable,
  newFindings,
  weigh,
  type Lapse,
  type LapseCause,
  type OpenFinding,
  type Waiver,
  type WaivedFinding,
  type Weighed,
} from './waivers.js';
