export { compileLine, lineHours, type CompiledLine } from './compile.js';
export {
  lineName,
  lineTag,
  pointerFile,
  releaseFile,
  type LineFile,
  type LineForm,
  type LineReleaseFile,
} from './files.js';
export type { LineLive } from './types.js';
