import { say } from '../../texts/say.js';
import { VISIT_TEXTS as T } from '../../texts/visit.js';
import { fileOf, requestLine } from './request-causes.js';
import type { Cause, RungCase } from './types.js';

/**
 * Why code that comes later in the page has not had its turn: the page is not read to its end, because it waits for a script of
 * somebody else that does not come (HTML Standard, 13.2.7: the parser is blocked).
 */
export function heldUp({ snippet, load, attribution, all }: RungCase): Cause | undefined {
  if (load.readyMs !== undefined) return undefined;
  for (const request of load.requests) {
    if (request.kind !== 'script' || request.failure !== 'unanswered' || request.initiator.by !== 'parser')
      continue;
    const owner = attribution.ofRequest(request);
    if (owner.kind === 'snippet' && owner.snippet === snippet) continue;
    const name =
      owner.kind === 'snippet' ? all.find((part) => part.snippet === owner.snippet)?.name : undefined;
    const file = fileOf(request.url);
    return {
      id: 'held-up',
      message: name === undefined ? say(T.heldUpByPage, { file }) : say(T.heldUp, { file, name }),
      advice: name === undefined ? T.heldUpByPageAdvice : say(T.heldUpAdvice, { name }),
      who: name === undefined ? 'site' : 'you',
      evidence: [requestLine(request)],
    };
  }
  return undefined;
}
