import { checkPasted, judgeBlocks, type Box, type PasteBlocks } from '@pragmatica/core';
import type { JudgeTools, PageJudge } from './judge.js';

/** For pages into which somebody has pasted blocks. */
export function judgePasted(
  { readers }: Pick<JudgeTools, 'readers'>,
  site: string,
  release: number,
  { blocks, left, boxes }: PasteBlocks & { readonly boxes: readonly Box[] },
): PageJudge {
  return async ({ plan, path, bytes }) => {
    // Marks are ASCII: whatever the page's encoding is, they can be read.
    const found = await readers.run('pastedBlocks', { text: Buffer.from(bytes).toString('latin1') });
    const sights = judgeBlocks(site, path, blocks, boxes, release, found);
    return checkPasted(plan, path, blocks, left, sights);
  };
}
