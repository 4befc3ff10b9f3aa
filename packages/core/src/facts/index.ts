export { domainOf, hostOf, isCacheBuster, normalAddress, wholeOrigin } from './addresses.js';
export { broughtDefinition, broughtNames, plainName, whenFileRuns } from './brought-names.js';
export { FactsCache, type ReadCode, type ReadingWatch } from './facts-cache.js';
export { integrityToWrite, matchesIntegrity } from './integrity.js';
export { isScriptType } from './markup/script-type.js';
export { normalForm } from './normal-form.js';
export { IS_MODULE, readCode, type GivenUp } from './read-code.js';
export { pieceMentions, type PieceMention } from './piece-mentions.js';
export { placementOfStatement } from './statement.js';
export { pagesOfStatement, type SaidPages } from './statement-pages.js';
export { isAboutSettings, providerWords, settingsWords } from './settings-words.js';
export { suggestNames, type SuggestedNames } from './names.js';
export { suggestParts, type SuggestedPart } from './suggest.js';
export { lineAndColumn } from './text.js';
export { versionedFile } from './versions.js';
export { factWords, type FactWords } from './words.js';
export type {
  Account,
  AskedFeature,
  CodeProblem,
  Definition,
  Facts,
  FloatingBox,
  Language,
  Load,
  MadeElement,
  Mark,
  MarkKind,
  ExecutionPhase,
  NeededElement,
  PageChange,
  PageChangeKind,
  Piece,
  PieceKind,
  ProblemKind,
  Range,
  Reset,
  Settings,
  ShapeKind,
  Sink,
  Slot,
  Stored,
  Target,
  Use,
} from './types.js';
