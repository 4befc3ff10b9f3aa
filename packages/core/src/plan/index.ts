export {
  ReleasePlanner,
  planPage,
  type LeftOutSnippet,
  type PagePlan,
  type PlannedPart,
  type SnippetLeftOutReason,
} from './plan.js';
