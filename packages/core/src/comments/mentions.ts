/** A stretch of a comment: plain text, or the name of somebody who is to hear of it. */
export interface CommentPiece {
  readonly text: string;
  /** The login that is named; left out for plain text. */
  readonly login?: string;
}

/** What a comment says, and to whom. */
export interface ReadComment {
  /** Together they are the comment, character for character. */
  readonly pieces: readonly CommentPiece[];
  /** Logins that are named, each once, as they come. */
  readonly named: readonly string[];
  /** Names after an @ that nobody has who sees the site, each once. */
  readonly unknown: readonly string[];
}

// An @ within a word is part of a mail address, which names nobody.
const NAME = /(?<![\p{L}\p{N}._+@-])@([a-z0-9][a-z0-9._@+-]{1,119})/giu;

/** What ends a sentence, and may end a login as well. */
const STOPS = /[._@+-]$/;

/**
 * Finds who is named in a comment: `@` and the login. Upper and lower case are the same; a full stop behind a name is no part of it,
 * unless the login ends with one. Linear in the text.
 *
 * @param logins - of those who see the site
 */
export function readComment(text: string, logins: Iterable<string>): ReadComment {
  const byLower = new Map([...logins].map((login) => [login.toLowerCase(), login]));
  const pieces: CommentPiece[] = [];
  const named = new Set<string>();
  const unknown = new Set<string>();
  let done = 0;
  for (const match of text.matchAll(NAME)) {
    const login = loginAt(match[1]!, byLower);
    if (login === undefined) {
      unknown.add(withoutStops(match[1]!));
      continue;
    }
    if (match.index > done) pieces.push({ text: text.slice(done, match.index) });
    done = match.index + 1 + login.length;
    pieces.push({ text: text.slice(match.index, done), login });
    named.add(login);
  }
  if (done < text.length) pieces.push({ text: text.slice(done) });
  return { pieces, named: [...named], unknown: [...unknown] };
}

function loginAt(run: string, byLower: ReadonlyMap<string, string>): string | undefined {
  for (let name = run.toLowerCase(); name !== ''; name = name.slice(0, -1)) {
    const login = byLower.get(name);
    if (login !== undefined) return login;
    if (!STOPS.test(name)) return undefined;
  }
  return undefined;
}

function withoutStops(run: string): string {
  let end = run.length;
  while (end > 0 && STOPS.test(run.slice(end - 1, end))) end -= 1;
  return run.slice(0, end);
}
