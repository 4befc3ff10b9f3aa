export { MOST_PAGES, type NoBoxReason } from './place.js';
export { pasteBlocks, type PasteBlocks, type UnpastedPart } from './blocks.js';
export { BOX_KEYS, type Box, type BoxKind } from './box.js';
export { judgeBlocks, type BlockSight, type BlockState } from './judge.js';
export { handoverSheet, type SheetBlock } from './sheet.js';
export { findBlocks, type BlockMark, type FoundBlock } from './marks.js';
export type { PasteBlock } from './write-block.js';
