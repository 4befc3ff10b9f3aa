import { charsetOf } from '@pragmatica/core';
import type { JudgeTools, PageJudge } from './judge.js';

/** For pages in which the parts stand as they are. */
export function judgeInPage({ readers }: JudgeTools): PageJudge {
  return ({ plan, bytes, contentType }) =>
    readers.run('delivered', { plan, page: bytes, encoding: charsetOf(contentType) });
}
