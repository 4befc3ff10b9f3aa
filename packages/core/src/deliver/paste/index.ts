export { pasteBlocks, type PasteBlock, type PasteBlocks, type UnpastedPart } from './blocks.js';
export { BOX_KEYS, BOX_KINDS, type Box, type BoxKind } from './box.js';
export { findBlocks, type BlockMark, type FoundBlock } from './marks.js';
