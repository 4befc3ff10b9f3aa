export { domainOf, hostOf, normalAddress } from './addresses.js';
export { IS_MODULE, readCode, unreadFacts } from './read-code.js';
export { placementOfStatement } from './statement.js';
export { isAboutSettings, providerWords, settingsWords } from './settings-words.js';
export { suggestNames, type SuggestedNames } from './names.js';
export { suggestParts, type SuggestedPart } from './suggest.js';
export { lineAndColumn } from './text.js';
export { versionedFile, type VersionedFile } from './versions.js';
export { factWords, type FactWords } from './words.js';
export type {
  Account,
  CodeProblem,
  Definition,
  Facts,
  FloatingBox,
  Language,
  Load,
  LoadMode,
  MadeElement,
  Mark,
  MarkKind,
  Moment,
  NeededElement,
  Piece,
  PieceKind,
  ProblemKind,
  Range,
  ResourceKind,
  SentEvent,
  Settings,
  Shape,
  ShapeKind,
  Stored,
  Sureness,
  Use,
} from './types.js';
