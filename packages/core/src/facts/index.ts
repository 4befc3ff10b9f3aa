export { domainOf, hostOf, normalAddress } from './addresses.js';
export { readCode } from './read-code.js';
export { lineAndColumn } from './text.js';
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
