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
  /** What was lost and why, the lowest rung first. */
  readonly losses: readonly Lost[];
}

/** Something that was lost for one cause. */
export interface Lost {
  readonly at: LostAt;
  readonly cause: Cause;
  /** Paths of the pages on which it was seen. */
  readonly paths: readonly string[];
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
  if (failed.length === 0) return { ...base, state: 'well', losses: [] };
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
  return { ...base, state: 'lost', losses: [{ at: 'delivered', cause, paths: [] }] };
}

function standingOf({ snippet, name, devices, problems, intruder }: SummedSnippet): SnippetStanding {
  const pathsOf = (at: readonly { readonly path: string }[]): string[] => [
    ...new Set(at.map(({ path }) => path)),
  ];
  const missed = [...problems]
    .sort((a, b) => RUNGS.indexOf(a.rung) - RUNGS.indexOf(b.rung))
    .map(({ rung, cause, at }): Lost => ({ at: rung, cause, paths: pathsOf(at) }));
  const losses = intruder ? [...missed, intrusion(intruder, pathsOf(intruder.at))] : missed;
  const isSeen = devices.some(({ loads }) => loads > 0);
  const state = losses.length > 0 ? 'lost' : devices.length === 0 ? 'left-out' : isSeen ? 'well' : 'waiting';
  return { snippet, name, state, losses };
}

function intrusion(
  { message, advice }: NonNullable<SummedSnippet['intruder']>,
  paths: readonly string[],
): Lost {
  return {
    at: 'out-of-reach',
    cause: { id: 'out-of-reach', message, advice, who: 'you', evidence: [] },
    paths,
  };
}

/** A standing in a sentence or two, as it is read beside its mark. */
export function standingWords({ state, losses }: Pick<SnippetStanding, 'state' | 'losses'>): string {
  if (losses.length > 0) return losses.map(lostWords).join(' ');
  if (state === 'waiting') return T.waitingCell;
  return state === 'left-out' ? T.leftOutCell : T.wellCell;
}

/** Where and why: "On /booking: its file answers with an error." */
export function lostWords({ cause: { message }, paths }: Pick<Lost, 'cause' | 'paths'>): string {
  if (paths.length === 0) return message;
  const more = paths.length - PATHS_NAMED;
  const named = paths.slice(0, PATHS_NAMED);
  return say(T.lostAt, {
    paths: more > 0 ? say(T.pagesFailedMany, { paths: named.join(', '), more }) : named.join(', '),
    message,
  });
}
