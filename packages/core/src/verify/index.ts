export { checkDelivery, type DeliveryState, type PartDelivery } from './delivered.js';
export { checkLine, type ExpectedLine, type LoadedLine } from './by-line.js';
export { checkPasted } from './by-paste.js';
export { isDeliveryFault, summarizeDelivery, type SnippetDelivery } from './summary.js';
export { Attribution, type Owner } from './attribution.js';
export { expectationOf, type Expectation, type Expected, type VisitPlace } from './expectation.js';
export { openLoad, rungTitle, type LoadCase, type LoadToOpen, type SnippetRungs } from './judge-load.js';
export { judgeVisit, type JudgedLoad, type KeptOwner, type LoadToJudge } from './judge-visit.js';
export {
  RUNGS,
  type Cause,
  type Responsible,
  type Rung,
  type RungResult,
  type RungState,
} from './rungs/types.js';
export {
  WHY_STEPS,
  untilWords,
  whoWords,
  whyFromSettings,
  whyWithVisit,
  type WhyAnswer,
  type WhyQuestion,
  type WhyStep,
  type WhyStepName,
} from './why.js';
export { coveredControls, overlapsOf, type Covered, type Overlap, type Party } from './overlap.js';
export { doubledOf, type Doubled, type Source } from './twice.js';
export { disclosuresOf, type ConsentStage, type Disclosure, type DisclosureStage } from './privacy.js';
export { withoutParts } from './without-parts.js';
export { asPlanned, barePage } from './as-planned.js';
export { weightsOf, type Weight } from './weight.js';
export {
  ANSWERED_BY,
  answerWords,
  answeredWords,
  reportsIn,
  type AnsweredBy,
  type Report,
  type ReportField,
  type SummedBy,
} from './reports.js';
export { ranOrder, type RanScript } from './ran-order.js';
export type { LoadTotals } from './load-totals.js';
export {
  heldAgainst,
  pageWeights,
  type PageWeight,
  type SnippetWeight,
  type VisitToWeigh,
  type WeighedPage,
  type Weighing,
} from './page-weights.js';
export { damageOf, hasSymptom, mayVary, type Symptom } from './damage.js';
export {
  summarizeVisits,
  type DeviceRungs,
  type RoundSummary,
  type SeenAt,
  type SummedReports,
  type SummedSnippet,
  type VisitToSum,
} from './summarize-visits.js';
export {
  brokenTrouble,
  earlyTroubles,
  missedTroubles,
  ownTrouble,
  twiceTroubles,
  wellWords,
  type Blamed,
  type BlamedSnippet,
  type FormerForms,
  type Trouble,
} from './trouble.js';
export { blame, type SymptomTest } from './blame.js';
export { newestWell } from './newest-well.js';
