/**
 * How a text is written down so that it can be said in any language later: its path in the catalogues between two
 * noncharacters, with the JSON of its parameters where it has some. Unicode keeps these for such use inside of a program
 * (The Unicode Standard, 23.7); parameters may hold deferred texts in turn.
 */
const BEGIN = '\uFDD0';
const END = '\uFDD1';
const PARAMS = '\uFDD2';
const BETWEEN = '/';
/** Begins a pattern in place of a path. */
const WORDLESS = '=';

/** What is written deeper than anything is said is not ours. */
const MAX_DEPTH = 8;

/** @param path - catalogue and names down to the text */
export function deferredText(path: readonly string[]): string {
  return `${BEGIN}${path.join(BETWEEN)}${END}`;
}

/** Whether a pattern is a text that is deferred. */
export function isDeferredText(pattern: string): boolean {
  return pattern.startsWith(BEGIN) && pattern.endsWith(END);
}

/** A text of the catalogues that is deferred, with its parameters. */
export function deferredMessage(text: string, params: Readonly<Record<string, unknown>>): string {
  return `${text.slice(0, -1)}${PARAMS}${JSON.stringify(params)}${END}`;
}

/** A message that has no words of its own, such as a list or a date, deferred. */
export function deferredPattern(pattern: string, params: Readonly<Record<string, unknown>>): string {
  return deferredMessage(`${BEGIN}${WORDLESS}${pattern}${END}`, params);
}

/** Whether some of a text is deferred. */
export function hasDeferred(text: string): boolean {
  return text.includes(BEGIN);
}

/** Plain data without what only deferred texts may hold: whoever wrote it did not mean it. */
export function withoutMarks<Data>(data: Data): Data {
  const json = JSON.stringify(data);
  return /[\uFDD0-\uFDD2]/.test(json)
    ? (JSON.parse(json.replace(/[\uFDD0-\uFDD2]/g, '\uFFFD')) as Data)
    : data;
}

/** One deferred text. */
export interface DeferredText {
  /** In the catalogues; or a pattern without words, which is the same in all languages. */
  readonly of: readonly string[] | string;
  /** Undefined for a text that is said as it is, and is no message. */
  readonly params: Readonly<Record<string, unknown>> | undefined;
}

/**
 * Replaces what is deferred in a text, in one pass.
 *
 * @throws Error for what no program of ours has written
 */
export function replaceDeferred(text: string, say: (deferred: DeferredText) => string): string {
  let out = '';
  let from = 0;
  for (let at = text.indexOf(BEGIN); at >= 0; at = text.indexOf(BEGIN, from)) {
    const end = endOf(text, at);
    out += text.slice(from, at) + say(parsed(text.slice(at + 1, end)));
    from = end + 1;
  }
  return out + text.slice(from);
}

function endOf(text: string, begin: number): number {
  let depth = 0;
  for (let at = begin; at < text.length; at++) {
    if (text[at] === BEGIN && ++depth > MAX_DEPTH) break;
    if (text[at] === END && --depth === 0) return at;
  }
  throw new Error('A deferred text does not end.');
}

function parsed(inside: string): DeferredText {
  const at = inside.indexOf(PARAMS);
  const name = at < 0 ? inside : inside.slice(0, at);
  const of = name.startsWith(WORDLESS) ? name.slice(1) : name.split(BETWEEN);
  const params = at < 0 ? undefined : (JSON.parse(inside.slice(at + 1)) as Record<string, unknown>);
  return { of, params };
}
