export {
  CHAIN_START,
  ChainReader,
  entryDigest,
  nextLink,
  type ChainFault,
  type ChainHead,
  type ChainProblem,
  type CheckedChain,
  type TrailChange,
  type TrailEntry,
  type TrailLink,
} from './chain.js';
export {
  draftChanges,
  isDraftChange,
  siteChange,
  snippetChange,
  type DraftChange,
  type Values,
} from './draft-change.js';
export { mergeSnippets, type Merge, type MergeChoice, type MergeConflict } from './merge.js';
export { plainChanges } from './plain-changes.js';
export { undoChanges, type UndoChoice, type UndoConflict, type Undone } from './undo.js';
export { changedCode, type ChangedCode } from './changed-code.js';
export { changeRows, type ChangeRow } from './change-rows.js';
