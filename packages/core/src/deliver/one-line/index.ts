export { compileLine, lineHours, type CompiledLine } from './compile.js';
export { lineName, pointerFile, releaseFile, type LineFile, type LineReleaseFile } from './files.js';
export type { LineLive } from './types.js';
