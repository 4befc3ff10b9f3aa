export {
  ALL_PAGES,
  PageMatcher,
  listWords,
  pagePatternProblem,
  pageRulesWords,
  toPathname,
  type PageMatch,
  type PageRules,
} from './page-pattern.js';
