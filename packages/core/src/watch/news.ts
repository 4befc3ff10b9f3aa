import type { Cause } from '../verify/index.js';
import type { LostAt, SnippetStanding } from './standing.js';

/** How a snippet stood when anybody was last told of it, or when it was last seen. */
export interface KnownStanding {
  readonly snippet: string;
  /** Empty while it stands well. */
  readonly losses: readonly KnownLoss[];
}

export interface KnownLoss {
  readonly at: LostAt;
  readonly causeId: string;
}

/** What was lost for one cause. */
export interface Loss {
  readonly at: LostAt;
  readonly causeId: string;
  readonly snippets: readonly {
    readonly snippet: string;
    readonly name: string;
    readonly cause: Cause;
    readonly paths: readonly string[];
    /** It was without this before. False where nobody had seen it before. */
    readonly hasWorked: boolean;
  }[];
}

/** What changed since anybody was told. */
export interface News {
  readonly lost: readonly Loss[];
  readonly back: readonly { readonly snippet: string; readonly name: string }[];
}

/**
 * What is new since anybody was last told: one entry for one cause, nothing where nothing changed.
 *
 * @param known - as it was told, or seen, last
 * @param now - after a round
 */
export function newsOf(known: readonly KnownStanding[], now: readonly SnippetStanding[]): News {
  const before = new Map(known.map((one) => [one.snippet, one]));
  const losses = new Map<string, { at: LostAt; causeId: string; snippets: Loss['snippets'][number][] }>();
  const back: News['back'][number][] = [];
  for (const { snippet, name, state, losses: lost } of now) {
    const last = before.get(snippet);
    if (state === 'well' && last !== undefined && last.losses.length > 0) back.push({ snippet, name });
    for (const { at, cause, paths } of lost) {
      if (last && has(last.losses, at, cause.id)) continue;
      const key = `${at} ${cause.id}`;
      let loss = losses.get(key);
      if (!loss) losses.set(key, (loss = { at, causeId: cause.id, snippets: [] }));
      // What differs in words alone is said once.
      if (!loss.snippets.some((one) => one.snippet === snippet))
        loss.snippets.push({ snippet, name, cause, paths, hasWorked: last !== undefined });
    }
  }
  return { lost: [...losses.values()], back };
}

function has(losses: readonly KnownLoss[], at: LostAt, causeId: string): boolean {
  return losses.some((one) => one.at === at && one.causeId === causeId);
}

export function isNews({ lost, back }: News): boolean {
  return lost.length > 0 || back.length > 0;
}

/**
 * What is known after a round. What waits or is not expected any more is forgotten: nobody is told that it came back.
 */
export function knownAfter(now: readonly SnippetStanding[]): readonly KnownStanding[] {
  return now
    .filter(({ state }) => state === 'well' || state === 'lost')
    .map(({ snippet, losses }) => ({
      snippet,
      losses: losses.map(({ at, cause }) => ({ at, causeId: cause.id })),
    }));
}

/**
 * What is sure after a second look: what only one of the two saw as lost is left as it was known. A network hiccup is no
 * news.
 *
 * @param first - what is known from the first look
 */
export function confirmed(
  first: readonly KnownStanding[],
  second: readonly SnippetStanding[],
  known: readonly KnownStanding[],
): readonly SnippetStanding[] {
  const of = (standings: readonly KnownStanding[], snippet: string): readonly KnownLoss[] =>
    standings.find((one) => one.snippet === snippet)?.losses ?? [];
  return second.map((standing) => {
    const { snippet, losses } = standing;
    // What has been told is lost stays so, and what came back does not need two looks.
    const sure = [...of(first, snippet), ...of(known, snippet)];
    return { ...standing, losses: losses.filter(({ at, cause }) => has(sure, at, cause.id)) };
  });
}

/**
 * Whether putting the former release back would help: something that worked with it does not any more, and it is not the
 * provider's doing.
 */
export function isOfRelease({ lost }: News): boolean {
  return lost.some(({ snippets }) =>
    snippets.some(({ hasWorked, cause }) => hasWorked && cause.who !== 'provider' && cause.who !== 'visitor'),
  );
}
