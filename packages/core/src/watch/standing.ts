import { say } from '../texts/say.js';
import { WATCH_TEXTS as T } from '../texts/watch.js';
import { RUNGS, type Cause, type RoundSummary, type Rung, type SummedSnippet } from '../verify/index.js';

/** How a snippet stands after a round of visits. */
export type StandingState =
  | 'well'
  | 'lost'
  /** It waits for something that no visit did. */
  | 'waiting'
  /** It is not expected on any page that was visited. */
  | 'left-out';

/** What was lost: a rung, or the bounds of its reach. */
export type LostAt = Rung | 'out-of-reach';

export interface SnippetStanding {
  /** Its key; empty for the site's pages themselves. */
  readonly snippet: string;
  readonly name: string;
  readonly state: StandingState;
  /** The first rung that was not reached, and why; null where none was lost. */
  readonly lost: { readonly at: LostAt; readonly cause: Cause } | null;
}

/** The pages themselves stand among the snippets by this key. */
export const PAGES = '';

const PATHS_NAMED = 3;

/**
 * How each snippet stands after a round, and the site's pages.
 *
 * @param visits - how many were made
 */
export function standingsOf(
  summary: Pick<RoundSummary, 'snippets' | 'failed'>,
  visits: number,
): readonly SnippetStanding[] {
  return [pagesStanding(summary.failed, visits), ...summary.snippets.map(standingOf)];
}

function pagesStanding(failed: RoundSummary['failed'], visits: number): SnippetStanding {
  const base = { snippet: PAGES, name: T.pages };
  if (failed.length === 0) return { ...base, state: 'well', lost: null };
  const paths = [...new Set(failed.map(({ path }) => path))];
  const named = paths.slice(0, PATHS_NAMED).join(', ');
  const more = paths.length - PATHS_NAMED;
  const cause: Cause = {
    id: 'page-not-opened',
    message: say(T.pagesFailed, {
      failed: paths.length,
      visits,
      paths: more > 0 ? say(T.pagesFailedMany, { paths: named, more }) : named,
    }),
    advice: T.pagesFailedAdvice,
    who: 'site',
    evidence: [],
  };
  return { ...base, state: 'lost', lost: { at: 'delivered', cause } };
}

function standingOf({ snippet, name, devices, problems, intruder }: SummedSnippet): SnippetStanding {
  const [first] = [...problems].sort((a, b) => RUNGS.indexOf(a.rung) - RUNGS.indexOf(b.rung));
  const base = { snippet, name };
  if (first) return { ...base, state: 'lost', lost: { at: first.rung, cause: first.cause } };
  if (intruder) {
    const { message, advice } = intruder;
    const cause: Cause = { id: 'out-of-reach', message, advice, who: 'you', evidence: [] };
    return { ...base, state: 'lost', lost: { at: 'out-of-reach', cause } };
  }
  if (devices.length === 0) return { ...base, state: 'left-out', lost: null };
  return { ...base, state: devices.some(({ loads }) => loads > 0) ? 'well' : 'waiting', lost: null };
}

/** A standing in one sentence, as it is read beside its mark. */
export function standingWords({ state, lost }: Pick<SnippetStanding, 'state' | 'lost'>): string {
  if (lost) return lost.cause.message;
  if (state === 'waiting') return T.waitingCell;
  return state === 'left-out' ? T.leftOutCell : T.wellCell;
}
