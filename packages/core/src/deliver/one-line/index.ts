export { compileLine, isConsentReadable, lineHours, type CompiledLine } from './compile.js';
export {
  lineName,
  lineTag,
  pointerFile,
  releaseFile,
  type LineFile,
  type LineForm,
  type LineReleaseFile,
} from './files.js';
export { findLines, isLineAddress, type FoundLine } from './find-lines.js';
export type { LineLive } from './types.js';
