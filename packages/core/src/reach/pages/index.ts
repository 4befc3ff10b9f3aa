export { addressWords, pageAddress, pageText, toPathname, type PageAddress } from './page-address.js';
export { isGroupReference, pagePatternProblem, type PagePattern } from './page-pattern.js';
export { PageMatcher, PatternSet, pageMatcher, type PageMatch } from './page-matcher.js';
export { pageProgram, type PageStates } from './page-regexp.js';
export {
  ALL_PAGES,
  listWords,
  pageEntryWords,
  pageRulesWords,
  withoutGroups,
  type PageGroup,
  type PageRules,
} from './page-rules.js';
export { PageUniverse, type PageAnswer } from './page-sets.js';
