export { proposeAdoption, type AdoptionProposal } from './adoption.js';
export { SHAPE_LIMITS, addressShape, pageOf, sectionOf, type ShapeLimits } from './crawl-address.js';
export type { ComposedItem, ComposedPages, Composition } from './composition.js';
export {
  coverageOf,
  type Coverage,
  type CoverageCell,
  type CoverageRow,
  type CoveredPages,
  type SnippetCoverage,
} from './coverage.js';
export { surveyDifference, unchangedWords, type SeenThing, type SurveyDifference } from './difference.js';
export { decodePage } from './decode.js';
export { gatherSightings, sightingPages, type SeenSighting, type StandingPages } from './gather.js';
export { attributeItems, findParts, type AttributedItem, type FoundPart } from './known-parts.js';
export { ManagedItems, type MatchKind, type SightingMatch } from './matches.js';
export { MAX_ITEMS } from './page-items.js';
export { escapePattern, shortestPageRules } from './page-patterns.js';
export { READER_VERSION, readPage } from './read-page.js';
export { describeSighting, type SightedAccount, type Sighting } from './sighting.js';
export { sightingWords, type NamedMatch } from './sighting-words.js';
export { STANDINGS, standingOf, type SightingPages, type Standing } from './standing.js';
export { ContentPolicy, type PolicyRequest, type PolicyVerdict } from './policy.js';
export { policyRequests, type AskedOfPolicy } from './policy-requests.js';
export { TRAIT_WORDS } from './traits.js';
export {
  PAGE_TRAITS,
  PAGE_TYPES,
  type DeclaredCharset,
  type DeclaredPolicy,
  type ItemKind,
  type ItemPlace,
  type ItemState,
  type PageItem,
  type PageReading,
  type PageSource,
  type PageTrait,
  type PageType,
} from './types.js';
