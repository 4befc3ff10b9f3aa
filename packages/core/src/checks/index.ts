export type { Check, ExampleSnippet } from './check.js';
export type { Knowledge } from './checked-set.js';
export { EXAMPLE_NOW, exampleKnowledge, exampleRecipe, exampleSet } from './examples.js';
export { FactsMemory, type ReadingWatch } from './facts-cache.js';
export { applyFix, mend, type Mended } from './fixes.js';
export { normalForm } from './normal-form.js';
export { orderReport, worseOrder, type OrderReport } from './order-report.js';
export { openStep } from './activation/open-step.js';
export { CHECKS } from './registry.js';
export { findCheck, runChecks, unfinishedFinding } from './run-checks.js';
export {
  AREAS,
  SEVERITIES,
  type Area,
  type Evidence,
  type Finding,
  type Fix,
  type Severity,
  type Subject,
} from './finding.js';
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
