export type { Ask, Check, ExampleSnippet } from './check.js';
export type { Knowledge, KnownFiles, KnownHost, KnownPolicies, KnownSighting } from './knowledge.js';
export { EXAMPLE_NOW, exampleFile, exampleKnowledge, exampleRecipe, exampleSet } from './examples.js';
export { applyFix, fixAll, type FixResult } from './fixes.js';
export { findingsHoldUntil } from './hold-until.js';
export { orderReport, pageNeedWords, worseOrder, type OrderReport } from './order-report.js';
export { openStep } from './activation/open-step.js';
export { CHECKS } from './registry.js';
export { seenInPages, type GivenPage } from './seen-in-pages.js';
export { unknownTo, type Unknown } from './unknown.js';
export { runChecks, unfinishedFinding } from './run-checks.js';
export { checkAbout, findCheck, wordFinding } from './word-finding.js';
export {
  AREAS,
  SEVERITIES,
  type Area,
  type Evidence,
  type Finding,
  type UnwordedFinding,
  type Fix,
  type Severity,
} from './finding.js';
export {
  countFindings,
  isWaivable,
  newFindings,
  applyWaivers,
  type Lapse,
  type OpenFinding,
  type Waiver,
  type WaivedFinding,
  type WaivedFindings,
} from './waivers.js';
