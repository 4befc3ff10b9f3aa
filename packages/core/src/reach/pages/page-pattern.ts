import { memoizeByText } from '../../memoize/by-text.js';
import { HOSTNAME, PATHNAME, SEARCH } from './components.js';
import { parsePattern, type PatternPart } from './parts.js';
import { PatternError, tokenize } from './tokens.js';
import { REACH_TEXTS } from '../../texts/reach.js';
import { say } from '../../texts/say.js';

/** A pattern of page addresses: `/path`, `/path?search` or `//host/path?search`, each a URLPattern component. */
export interface PagePattern {
  readonly source: string;
  /** Undefined where any host will do. */
  readonly host: readonly PatternPart[] | undefined;
  readonly path: readonly PatternPart[];
  /** Undefined where any search will do. */
  readonly search: readonly PatternPart[] | undefined;
}

/** The pattern in its components. @throws PatternError saying what is wrong with it, in words */
export const readPagePattern = memoizeByText(4_000, (source): PagePattern => {
  const { host, path, search } = splitPattern(source);
  return {
    source,
    host: host === undefined ? undefined : parsePattern(host, HOSTNAME),
    path: parsePattern(path, PATHNAME),
    search: search === undefined ? undefined : parsePattern(search, SEARCH),
  };
});

/** What is wrong with a pattern in words, or undefined. */
export function pagePatternProblem(source: string): string | undefined {
  if (isGroupReference(source)) {
    return GROUP_KEY.test(source.slice(1)) ? undefined : REACH_TEXTS.writePageGroup;
  }
  if (!source.startsWith('/')) {
    const { host, path } = pastedAddress(source);
    return say(REACH_TEXTS.pagePatternStarts, { path, host: host ?? 'www.example.com' });
  }
  try {
    readPagePattern(source);
    return undefined;
  } catch (error) {
    if (!(error instanceof PatternError)) throw error;
    return say(REACH_TEXTS.notValidPattern, { message: error.message });
  }
}

/** What somebody means who writes an address, or a path without its slash. */
function pastedAddress(source: string): { host?: string; path: string } {
  const whole = /^(?:https?:\/\/)?((?:[\w-]+\.)+[a-z]{2,})(\/.*)?$/i.exec(source.trim());
  if (whole) return { host: whole[1]!.toLowerCase(), path: whole[2] ?? '/*' };
  return { path: `/${source.trim()}` };
}

const GROUP_KEY = /^[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?$/;

/** Whether an entry of page rules names a group of pages and is no pattern itself. */
export function isGroupReference(entry: string): boolean {
  return entry.startsWith('@');
}

/** @throws PatternError */
function splitPattern(source: string): { host?: string; path: string; search?: string } {
  let rest = source;
  let host: string | undefined;
  if (rest.startsWith('//')) {
    const end = rest.indexOf('/', 2);
    if (end < 0) throw new PatternError(REACH_TEXTS.pathMissingBehind);
    host = rest.slice(2, end);
    rest = rest.slice(end);
  }
  const hash = rest.indexOf('#');
  if (hash >= 0) throw new PatternError(REACH_TEXTS.leaveOutEverything);
  const at = searchStart(rest);
  return {
    ...(host === undefined ? {} : { host }),
    path: at < 0 ? rest : rest.slice(0, at),
    ...(at < 0 ? {} : { search: rest.slice(at + 1) }),
  };
}

/**
 * Where the search begins: at the first question mark that modifies nothing (URLPattern Standard, 2.1, "is a search
 * prefix").
 */
function searchStart(source: string): number {
  const tokens = tokenize(source);
  const found = tokens.findIndex(
    ({ type, value }, index) =>
      type === 'other-modifier' &&
      value === '?' &&
      !['name', 'regexp', 'close', 'asterisk'].includes(tokens[index - 1]?.type ?? ''),
  );
  if (found < 0) return -1;
  // Tokens count code points.
  return Array.from(source).slice(0, tokens[found]!.index).join('').length;
}
