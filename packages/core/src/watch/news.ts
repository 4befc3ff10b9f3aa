import type { Cause } from '../verify/index.js';
import type { LostAt, SnippetStanding } from './standing.js';

/** How a snippet stood when anybody was last told of it, or when it was last seen. */
export interface KnownStanding {
  readonly snippet: string;
  /** Null while it stands well. */
  readonly lost: { readonly at: LostAt; readonly causeId: string } | null;
}

/** What was lost for one cause. */
export interface Loss {
  readonly at: LostAt;
  readonly causeId: string;
  readonly snippets: readonly {
    readonly snippet: string;
    readonly name: string;
    readonly cause: Cause;
    /** It stood well before. False where nobody had ever seen it work. */
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
  for (const { snippet, name, state, lost } of now) {
    const last = before.get(snippet);
    if (!lost) {
      if (state === 'well' && last?.lost) back.push({ snippet, name });
      continue;
    }
    const { at, cause } = lost;
    if (last?.lost?.at === at && last.lost.causeId === cause.id) continue;
    const key = `${at} ${cause.id}`;
    let loss = losses.get(key);
    if (!loss) losses.set(key, (loss = { at, causeId: cause.id, snippets: [] }));
    loss.snippets.push({ snippet, name, cause, hasWorked: last !== undefined && last.lost === null });
  }
  return { lost: [...losses.values()], back };
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
    .map(({ snippet, lost }) => ({
      snippet,
      lost: lost && { at: lost.at, causeId: lost.cause.id },
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
  const seen = new Map(first.map((one) => [one.snippet, one]));
  const told = new Set(known.filter(({ lost }) => lost !== null).map(({ snippet }) => snippet));
  return second.filter(({ snippet, lost }) => {
    // What came back does not need two looks, and what has been told is lost stays so.
    if (!lost || told.has(snippet)) return true;
    return seen.get(snippet)?.lost !== undefined && seen.get(snippet)!.lost !== null;
  });
}

/**
 * What is known after a second look: what it did not make sure of stays as it was known.
 *
 * @param second - all that it saw
 * @param sure - what of it is sure
 */
export function knownNext(
  known: readonly KnownStanding[],
  second: readonly SnippetStanding[],
  sure: readonly SnippetStanding[],
): readonly KnownStanding[] {
  const certain = new Set(sure.map(({ snippet }) => snippet));
  const unsure = new Set(second.map(({ snippet }) => snippet).filter((snippet) => !certain.has(snippet)));
  return [...knownAfter(sure), ...known.filter(({ snippet }) => unsure.has(snippet))];
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
