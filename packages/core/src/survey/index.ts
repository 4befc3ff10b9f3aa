export { absentParts, type AbsentPart } from './absent-parts.js';
export { alterations, type Alteration } from './alterations.js';
export { codeToAdopt, placementFor, proposeAdoption, type AdoptionProposal } from './adoption.js';
export { addressShape, pageOf, sectionOf } from './crawl-address.js';
export { composePage, type ComposedPages, type Composition } from './composition.js';
export { coverageOf, type Coverage, type CoveredPages } from './coverage.js';
export { coverageCsv } from './coverage-csv.js';
export { surveyDifference, unchangedWords, type SeenThing, type SurveyDifference } from './difference.js';
export { CARRIER_PART, type Carrier } from './carriers.js';
export { FIRST_LOOK_PAGES, firstLook, type LookedAtSite, type LookedAtThing } from './first-look.js';
export { siteAddresses, siteNameOf } from './site-address.js';
export { decodePage } from './decode.js';
export { gatherSightings, sightingPages, type SeenSighting, type StandingPages } from './gather.js';
export { fileDifference, type FileVersion } from './file-difference.js';
export {
  FileBook,
  fileWords,
  filesLoadedBy,
  readScriptFile,
  wholeAddress,
  type FileReading,
  type KnownFile,
} from './known-file.js';
export { MATCH_KINDS, ManagedItems, type MatchKind, type SightingMatch } from './matches.js';
export { MAX_ITEMS } from './page-items.js';
export { proposeOwnPolicy, type ProposedPolicy } from './own-sources.js';
export {
  policyOverview,
  type NeededSource,
  type PolicyGrounds,
  type PolicyKind,
  type PolicyOverview,
  type PresentPolicy,
} from './policy-overview.js';
export { filledForm, passwordForm, type PasswordForm } from './password-form.js';
export { shortestPageRules } from './page-patterns.js';
export { READER_VERSION, readPage } from './read-page.js';
export { nextRun, scheduleProblem, scheduleWords, type ScheduleProblem } from './schedule.js';
export {
  compareSides,
  type ComparedSides,
  type OnTheWay,
  type PagesOfSides,
  type SideDifference,
  type SidesReport,
  type SomePages,
} from './sides.js';
export { describeSighting, type SightedAccount, type Sighting } from './sighting.js';
export { sightingWords, type NamedMatch } from './sighting-words.js';
export { STANDINGS, standingOf, type SightingPages, type Standing } from './standing.js';
export { TRAIT_WORDS } from './traits.js';
export {
  ITEM_KINDS,
  ITEM_PLACES,
  ITEM_STATES,
  PAGE_TRAITS,
  PAGE_TYPES,
  type AttributedItem,
  type DeclaredCharset,
  type ItemKind,
  type ItemPlace,
  type ItemState,
  type PageItem,
  type PageReading,
  type PageSource,
  type PageTrait,
  type PageType,
} from './types.js';
