export { OF_THE_PAGES_BYTES, hasTagOf, isWholePage, originCondition, variantEtag } from './page-answers.js';
export { planPage, toPlanned } from './plan-page.js';
export { ReleasePlanner, type Outcome, type PlannedPage, type Visit } from './release-planner.js';
export type { PagePlan, PlannedPart, Reason } from './types.js';
export { WAITING_SCRIPT, waitingCode } from './waiting/index.js';
export { planDifference, withDraft } from './with-draft.js';
