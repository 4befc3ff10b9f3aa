import {
  openLoad,
  planPage,
  orderedParts,
  readCode,
  type Expected,
  type LoadCase,
  type LoadEvidence,
  type SeenElement,
  type SeenRequest,
  type SeenScript,
  type Snapshot,
  type Stack,
} from '@pragmatica/core';
import { load as pageLoad } from './sets.js';

export const PAGE_URL = 'http://x.example/';

/** A page load in which nothing happened. */
export const QUIET: LoadEvidence = {
  url: PAGE_URL,
  finalUrl: PAGE_URL,
  status: 200,
  startedAt: 0,
  cookies: '',
  html: '',
  headers: {},
  dom: '',
  readyMs: 100,
  endMs: 800,
  scripts: [],
  requests: [],
  exceptions: [],
  console: [],
  violations: [],
  globals: [],
  elements: [],
  tags: [],
  covered: [],
  writes: [],
  longTasks: [],
  shifts: [],
  readable: 500,
  size: { width: 1280, height: 900 },
  window: { width: 1280, height: 800 },
  isHung: false,
  seconds: 1,
  scrolled: 100,
  hasLeft: false,
  visitor: 'first',
  views: [],
};

let count = 0;

/** A request that was answered well; what is not named is plain. */
export function request(url: string, change: Partial<SeenRequest> = {}): SeenRequest {
  return {
    id: `r${++count}`,
    url,
    method: 'GET',
    kind: 'script',
    startMs: 10,
    answeredMs: 20,
    endMs: 30,
    status: 200,
    bytes: 100,
    initiator: { by: 'other', stack: [] },
    ...change,
  };
}

/** Calls, the innermost first, by the ids of their scripts. */
export function calls(...scripts: readonly string[]): Stack {
  return scripts.map((script) => ({ script, url: '', line: 0, column: 0 }));
}

export function seenScript(id: string, change: Partial<SeenScript> = {}): SeenScript {
  return { id, url: PAGE_URL, line: 0, column: 0, isParsed: true, stack: [], ...change };
}

export function element(selector: string, change: Partial<SeenElement> = {}): SeenElement {
  return {
    tag: `<div>`,
    selector,
    text: selector,
    box: { x: 100, y: 100, width: 200, height: 100 },
    position: 'fixed',
    isVisible: true,
    stack: [],
    probes: [],
    ...change,
  };
}

/** Line and column, from 0, behind the first place in a page at which a text stands: what browsers say of a start tag. */
export function placeBehind(html: string, text: string): { readonly line: number; readonly column: number } {
  const lines = html.slice(0, html.indexOf(text) + text.length).split('\n');
  return { line: lines.length - 1, column: lines.at(-1)!.length };
}

/** A page load made ready for questions. */
export function opened(
  snapshot: Snapshot,
  change: Partial<LoadEvidence>,
  probed: ReadonlyMap<string, string> = new Map(),
): LoadCase & { readonly load: LoadEvidence } {
  const load = { ...QUIET, ...change };
  const plan = planPage(snapshot, pageLoad('/'));
  const running = new Set(plan.parts.map(({ snippet }) => snippet));
  const expected: Expected = {
    site: snapshot.site.key,
    plan,
    snippets: snapshot.snippets.map(({ key, name }) => ({
      snippet: key,
      name,
      expected: running.has(key) ? 'runs' : 'left-out',
    })),
    parts: orderedParts(snapshot).map(({ key, snippet, part }) => ({
      key,
      snippet: snippet.key,
      name: snippet.name,
      placement: part.placement,
      code: part.code,
      own: part.code,
    })),
  };
  return { ...openLoad({ load, expected, deliveries: [], probed, read: readCode }), load };
}
