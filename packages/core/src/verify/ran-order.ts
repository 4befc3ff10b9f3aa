import type { LoadEvidence } from '../visit/index.js';
import { snippetOf } from './attribution.js';
import type { LoadCase } from './judge-load.js';

/** A script that ran, or several of one owner that ran one after the other. */
export interface RanScript {
  /** Whose: a snippet's key, null for the page itself, undefined where nobody knows. */
  readonly snippet: string | null | undefined;
  readonly name: string;
  /** Address of its file; null for code in the page, or made from text. */
  readonly file: string | null;
  readonly count: number;
}

/** A page that makes scripts without end fills no screen. */
const MOST = 60;

/**
 * What really ran on a page load, in order. A script is handed to the engine when its turn has come (HTML Standard, "execute the
 * script element"), so the order in which the browser saw them is the order in which they ran, whatever the page's order is.
 */
export function ranOrder(
  { scripts }: Pick<LoadEvidence, 'scripts'>,
  { attribution, nameOf }: Pick<LoadCase, 'attribution' | 'nameOf'>,
): readonly RanScript[] {
  const ran: RanScript[] = [];
  for (const { id, url, source } of scripts) {
    const owner = attribution.ofScript(id);
    const snippet = snippetOf(owner);
    const file = source === undefined && url !== '' ? url : null;
    const last = ran.at(-1);
    if (last && last.snippet === snippet && last.file === file)
      ran[ran.length - 1] = { ...last, count: last.count + 1 };
    else if (ran.length < MOST)
      ran.push({ snippet, name: typeof snippet === 'string' ? nameOf(snippet) : '', file, count: 1 });
    else break;
  }
  return ran;
}
