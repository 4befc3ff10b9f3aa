import { lazyTexts } from '../texts/lazy-texts.js';
import { say } from '../texts/say.js';
import { VISIT_TEXTS as T } from '../texts/visit.js';
import { isReport, isWrite, type LoadEvidence, type SeenRequest } from '../visit/index.js';
import { snippetOf } from './attribution.js';
import type { LoadCase } from './judge-load.js';

/** Who answered a report: its host, a stand-in of ours in its stead, nobody that was seen, or nobody because it was not let through. */
export const ANSWERED_BY = ['host', 'stand-in', 'nobody', 'blocked'] as const;
export type AnsweredBy = (typeof ANSWERED_BY)[number];

/** How many reports each answered. */
export type SummedBy = Readonly<Partial<Record<AnsweredBy, number>>>;

/** What somebody was told in one page load. */
export interface Report {
  /** Whose doing it was: a snippet's key, null for the page itself, undefined where nobody knows. */
  readonly snippet: string | null | undefined;
  readonly name: string;
  readonly host: string;
  readonly url: string;
  readonly atMs: number;
  readonly by: AnsweredBy;
  /** Of the answer; null where none was seen. */
  readonly status: number | null;
  /** What was said, by name: of the address and of what was sent along. */
  readonly fields: readonly ReportField[];
}

export interface ReportField {
  readonly name: string;
  readonly value: string;
}

/** A page that reports without end fills no screen. */
const MOST = 100;
const MOST_FIELDS = 40;
const MOST_CHARACTERS = 200;
const MOST_OF_ADDRESS = 2_000;
/** Of all that one page load says, in characters: what comes after is only counted. */
const MOST_SAID = 50_000;
/** So deep are objects in objects still written out. */
const MOST_DEPTH = 4;

/** What a page load told anybody, in order. */
export function reportsIn(
  { requests }: Pick<LoadEvidence, 'requests'>,
  { attribution, nameOf }: Pick<LoadCase, 'attribution' | 'nameOf'>,
): readonly Report[] {
  const reports: Report[] = [];
  let said = 0;
  for (const request of requests) {
    if (reports.length === MOST) break;
    if (!tells(request) || !URL.canParse(request.url)) continue;
    const owner = attribution.ofRequest(request);
    const snippet = snippetOf(owner);
    const { url, startMs, status = null } = request;
    const fields = said < MOST_SAID ? fieldsOf(request) : [];
    for (const { name, value } of fields) said += name.length + value.length;
    reports.push({
      snippet,
      name: typeof snippet === 'string' ? nameOf(snippet) : '',
      host: new URL(url).host,
      url: url.slice(0, MOST_OF_ADDRESS),
      atMs: startMs,
      by: answeredBy(request),
      status,
      fields,
    });
  }
  return reports;
}

function answeredBy({ standIn, failure, status }: SeenRequest): AnsweredBy {
  if (standIn === true) return 'stand-in';
  if (failure === 'forbidden') return 'blocked';
  return status === undefined || failure !== undefined ? 'nobody' : 'host';
}

const WORDS = lazyTexts({
  host: () => T.answeredByHost,
  'stand-in': () => T.answeredByStandIn,
  nobody: () => T.answeredByNobody,
  blocked: () => T.notLetThrough,
}) satisfies Record<AnsweredBy, string>;

const ONE: Readonly<Record<AnsweredBy, string>> = lazyTexts({
  host: () => T.oneByHost,
  'stand-in': () => T.oneByStandIn,
  nobody: () => T.oneByNobody,
  blocked: () => T.oneNotLetThrough,
});

/** Who answered one report: "answered by a stand-in". */
export function answerWords(by: AnsweredBy): string {
  return ONE[by];
}

/** "3 answered, 1 answered by a stand-in". */
export function answeredWords(by: SummedBy): string {
  return ANSWERED_BY.flatMap((one) => {
    const count = by[one] ?? 0;
    return count === 0 ? [] : [say(WORDS[one], { count })];
  }).join(', ');
}

function tells({ redirect, requestHeaders = {}, ...request }: SeenRequest): boolean {
  // What leads elsewhere says there what it said here.
  if (redirect !== undefined) return false;
  return isWrite(request) || isReport({ ...request, contentType: requestHeaders['content-type'] });
}

/** What a request says, in its address and in what is sent along: forms (URL Standard), JSON, or plain text. */
function fieldsOf({ url, body }: Pick<SeenRequest, 'url' | 'body'>): readonly ReportField[] {
  const fields: ReportField[] = [];
  const add = (name: string, value: string): void => {
    if (fields.length < MOST_FIELDS)
      fields.push({ name: name.slice(0, MOST_CHARACTERS), value: value.slice(0, MOST_CHARACTERS) });
  };
  for (const [name, value] of new URL(url).searchParams) add(name, value);
  if (body === undefined || body === '') return fields;
  const json = parsed(body);
  if (json !== undefined) addJson('', json, 0, add);
  else if (/^[^\s=&]{1,80}=[^\s]*$/.test(body))
    for (const [name, value] of new URLSearchParams(body)) add(name, value);
  else add('', body);
  return fields;
}

function addJson(
  name: string,
  value: unknown,
  depth: number,
  add: (name: string, value: string) => void,
): void {
  if (value !== null && typeof value === 'object' && depth < MOST_DEPTH) {
    for (const [key, inner] of Object.entries(value))
      addJson(name === '' ? key : `${name}.${key}`, inner, depth + 1, add);
    return;
  }
  add(name, typeof value === 'string' ? value : JSON.stringify(value));
}

/** An object or a list; anything else that happens to be JSON is text. */
function parsed(body: string): object | undefined {
  if (!/^\s*[[{]/.test(body)) return undefined;
  try {
    return JSON.parse(body) as object;
  } catch {
    return undefined;
  }
}
