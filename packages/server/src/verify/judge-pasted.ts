import { charsetOf, type Box, type PasteBlocks } from '@pragmatica/core';
import type { JudgeTools, PageJudge } from './judge.js';

/** For pages into which somebody has pasted blocks. */
export function judgePasted(
  { readers }: Pick<JudgeTools, 'readers'>,
  site: string,
  release: number,
  { blocks, left, boxes }: PasteBlocks & { readonly boxes: readonly Box[] },
): PageJudge {
  return ({ plan, path, bytes, contentType }) =>
    readers.run('pasted', {
      ...{ plan, path, page: bytes, encoding: charsetOf(contentType) },
      expected: { site, release, blocks, left, boxes },
    });
}
