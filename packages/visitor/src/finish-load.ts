import { setTimeout as sleep } from 'node:timers/promises';
import type { ConsentAnswer, LoadEvidence, SeenElement, SeenRequest, SeenTag, Stack } from '@pragmatica/core';
import type { CDPSession, Page } from 'playwright-core';
import { callInPage, inPage } from './in-page.js';
import type { VisitOrder } from './order.js';
import { sayGoodbye } from './page/goodbye.js';
import { lookAtPage, readTimings, type PageLook } from './page/look.js';
import type { Protocol } from './protocol.js';
import type { LoadRecord, Recorder } from './recorder.js';
import { within } from './within.js';

/** What the steps of a visit have done to a page so far. */
export interface LoadProgress {
  readonly visitor: 'first' | 'returning';
  readonly openedAt: number;
  seconds: number;
  scrolled: number;
  hasLeft: boolean;
  /** What was said to the consent banner, and when: milliseconds since 1970, undefined for an earlier page load. */
  answer: { readonly choice: ConsentAnswer['choice']; readonly at?: number } | undefined;
}

export interface LoadToFinish {
  readonly session: CDPSession;
  readonly recorder: Recorder;
  readonly record: LoadRecord;
  readonly order: VisitOrder;
  readonly progress: LoadProgress;
  /** Left out for a page load that is over: there is nothing to look at any more. */
  readonly page?: Page;
}

export interface FinishedLoad {
  readonly load: LoadEvidence;
  readonly screenshot?: Buffer;
}

const ANSWER_MS = 4_000;
const MAX_DOM = 1_500_000;
const MAX_MADE = 400;
const MAX_GLOBALS = 500;
const MAX_ELEMENTS = 120;
const SCREENSHOT_QUALITY = 60;
const LEAVE_MS = 2_000;
/** Beacons that are sent on leaving are answered within this, or not waited for. */
const LAST_WORDS_MS = 400;
const LAST_WORDS_STEP_MS = 40;
const NO_SIZE = { width: 0, height: 0 };

/** Writes down a page load: what was kept as it happened, and a last look at the page. */
export async function finishLoad(work: LoadToFinish): Promise<FinishedLoad> {
  const { record, progress, page } = work;
  const endMs = Math.round(performance.now() - progress.openedAt);
  await within(ANSWER_MS, Promise.all(record.pending));
  const seen = page === undefined ? undefined : await look(work);
  // What is sent on leaving may be answered when nobody listens any more.
  const unanswered = new Set<SeenRequest>([...record.requests.values()].filter(isOpen));
  if (seen) await leavePage(work.session, record);
  const requests = [...record.requests.values()].map((request) =>
    unanswered.has(request) ? unansweredOf(request) : request,
  );
  const load: LoadEvidence = {
    url: record.url,
    finalUrl: record.finalUrl,
    status: record.status,
    startedAt: record.startedAt,
    cookies: record.cookies,
    html: record.html,
    headers: record.headers,
    dom: seen?.dom ?? '',
    ...(record.readyMs === undefined ? {} : { readyMs: record.readyMs }),
    ...(record.loadedMs === undefined ? {} : { loadedMs: record.loadedMs }),
    endMs,
    scripts: [...record.scripts.values()],
    requests,
    exceptions: record.exceptions,
    console: record.console,
    violations: record.violations,
    globals: seen?.globals ?? [],
    elements: seen?.elements ?? [],
    tags: seen?.tags ?? [],
    covered: seen?.covered ?? [],
    writes: record.writes,
    longTasks: seen?.longTasks ?? [],
    shifts: seen?.shifts ?? [],
    readable: seen?.readable ?? 0,
    size: seen?.size ?? NO_SIZE,
    window: seen?.window ?? NO_SIZE,
    isHung: page !== undefined && seen === undefined,
    seconds: Math.max(progress.seconds, endMs / 1_000),
    scrolled: Math.max(progress.scrolled, seen?.scrolled ?? 0),
    hasLeft: progress.hasLeft,
    visitor: progress.visitor,
    ...(progress.answer === undefined ? {} : { answer: answerOf(progress.answer, record) }),
    views: record.views,
  };
  return { load, ...(seen?.screenshot === undefined ? {} : { screenshot: seen.screenshot }) };
}

/** Asked for, and not there yet. */
function isOpen({ endMs, kind, failure }: SeenRequest): boolean {
  return endMs === undefined && kind !== 'socket' && failure === undefined;
}

function unansweredOf({ endMs: _, error: __, ...request }: SeenRequest): SeenRequest {
  return { ...request, failure: 'unanswered' };
}

/** Lets the page know that the visitor goes, as every visitor does in the end: what counts visits may tell only then. */
async function leavePage(session: CDPSession, record: LoadRecord): Promise<void> {
  await within(
    LEAVE_MS,
    session.send('Runtime.evaluate', { expression: callInPage(sayGoodbye), returnByValue: true }),
  );
  const until = performance.now() + LAST_WORDS_MS;
  do await sleep(LAST_WORDS_STEP_MS);
  while (performance.now() < until && record.openFor(LAST_WORDS_MS) > 0);
}

function answerOf(
  { choice, at }: NonNullable<LoadProgress['answer']>,
  { startedAt }: LoadRecord,
): ConsentAnswer {
  return at === undefined || at < startedAt ? { choice } : { choice, atMs: at - startedAt };
}

type Seen = Pick<
  LoadEvidence,
  | 'dom'
  | 'globals'
  | 'elements'
  | 'tags'
  | 'covered'
  | 'longTasks'
  | 'shifts'
  | 'readable'
  | 'size'
  | 'window'
  | 'scrolled'
> & {
  readonly screenshot?: Buffer;
};

/** Undefined where the page does not answer. */
async function look(work: LoadToFinish): Promise<Seen | undefined> {
  const { session, order } = work;
  const world = await within(
    ANSWER_MS,
    session.send('Page.createIsolatedWorld', { frameId: work.recorder.mainFrame, worldName: 'pragmatica' }),
  );
  if (!world) return undefined;
  const contextId = world.executionContextId;
  const read = async <T>(expression: string): Promise<T | undefined> => {
    const answer = await within(
      ANSWER_MS,
      session.send('Runtime.evaluate', { contextId, expression, returnByValue: true, awaitPromise: true }),
    );
    return answer && !answer.exceptionDetails ? (answer.result.value as T) : undefined;
  };
  const dom = await read<string>('document.documentElement ? document.documentElement.outerHTML : ""');
  if (dom === undefined) return undefined;
  const screenshot = order.noScreenshot === true ? undefined : await shoot(session);
  const { made, tags } = await madeElements(work, contextId);
  const looked = await lookWith(
    work,
    contextId,
    made.map(({ objectId }) => objectId),
  );
  const timings = await read<Awaited<ReturnType<typeof readTimings>>>(callInPage(readTimings));
  return {
    dom: dom.slice(0, MAX_DOM),
    ...(screenshot === undefined ? {} : { screenshot }),
    globals: await globalsOf(work),
    elements: looked?.elements ?? [],
    tags,
    covered: looked?.covered ?? [],
    longTasks: timings?.longTasks ?? [],
    shifts: timings?.shifts ?? [],
    readable: looked?.readable ?? 0,
    size: looked?.size ?? NO_SIZE,
    window: looked?.window ?? NO_SIZE,
    scrolled: looked?.scrolled ?? 0,
  };
}

/** Names that the page's scripts have made. */
async function globalsOf({ session, recorder }: LoadToFinish): Promise<readonly string[]> {
  const [own, lexical] = await Promise.all([
    within(
      ANSWER_MS,
      session.send('Runtime.evaluate', {
        expression: `globalThis[Symbol.for(${JSON.stringify(recorder.token)})]?.globals()`,
        returnByValue: true,
      }),
    ),
    // `let`, `const` and `class` make no properties of the window.
    within(ANSWER_MS, session.send('Runtime.globalLexicalScopeNames', {})),
  ]);
  const names = [...((own?.result.value as string[] | undefined) ?? []), ...(lexical?.names ?? [])];
  return names.slice(0, MAX_GLOBALS);
}

async function shoot(session: CDPSession): Promise<Buffer | undefined> {
  const shot = await within(
    ANSWER_MS,
    session.send('Page.captureScreenshot', {
      format: 'webp',
      quality: SCREENSHOT_QUALITY,
      optimizeForSpeed: true,
    }),
  );
  return shot && Buffer.from(shot.data, 'base64');
}

interface MadeElement {
  readonly objectId: string;
  readonly stack: Stack;
}

interface Made {
  readonly made: readonly MadeElement[];
  readonly tags: readonly SeenTag[];
}

/** Elements that scripts have made: the topmost of each piece, with what made it; and script elements with files. */
async function madeElements({ session, recorder }: LoadToFinish, contextId: number): Promise<Made> {
  const tree = await within(ANSWER_MS, session.send('DOM.getDocument', { depth: -1, pierce: true }));
  if (!tree) return { made: [], tags: [] };
  const nodes: number[] = [];
  const files = new Map<number, string>();
  const queue: Protocol.DOM.Node[] = [tree.root];
  const parents = new Map<number, number>();
  for (let node = queue.shift(); node && nodes.length < 6_000; node = queue.shift()) {
    // A frame's own page is not this page's.
    for (const child of [...(node.children ?? []), ...(node.shadowRoots ?? [])]) {
      parents.set(child.nodeId, node.nodeId);
      queue.push(child);
    }
    const file = node.localName === 'script' ? fileOf(node, tree.root.baseURL) : undefined;
    if (file !== undefined && files.size < MAX_MADE) files.set(node.nodeId, file);
    if (
      node.nodeType === 1 &&
      !/^(?:html|head|body|meta|title|base|script|link|style|noscript|template)$/.test(node.localName)
    )
      nodes.push(node.nodeId);
  }
  const stacks = new Map<number, Stack>();
  await within(
    ANSWER_MS,
    Promise.all(
      [...nodes, ...files.keys()].map(async (nodeId) => {
        const { creation } = await session.send('DOM.getNodeStackTraces', { nodeId });
        const stack = creation && recorder.stackOf(creation);
        if (stack && stack.length > 0) stacks.set(nodeId, stack);
      }),
    ),
  );
  const isTopmost = (nodeId: number): boolean => {
    for (let one = parents.get(nodeId); one !== undefined; one = parents.get(one))
      if (stacks.has(one)) return false;
    return true;
  };
  const topmost = [...stacks.keys()].filter((id) => !files.has(id) && isTopmost(id)).slice(0, MAX_MADE);
  const made = await within(
    ANSWER_MS,
    Promise.all(
      topmost.map(async (nodeId) => {
        const { object } = await session.send('DOM.resolveNode', { nodeId, executionContextId: contextId });
        return { objectId: object.objectId ?? '', stack: stacks.get(nodeId) ?? [] };
      }),
    ),
  );
  return {
    made: (made ?? []).filter(({ objectId }) => objectId !== ''),
    tags: [...files].flatMap(([nodeId, url]) => {
      const stack = stacks.get(nodeId);
      return stack ? [{ url, stack }] : [];
    }),
  };
}

/** The address of a script element's file; undefined where it has none. */
function fileOf({ attributes = [] }: Protocol.DOM.Node, base: string | undefined): string | undefined {
  const at = attributes.findIndex((name, index) => index % 2 === 0 && name === 'src');
  const source = at < 0 ? undefined : attributes[at + 1];
  return source !== undefined && URL.canParse(source, base) ? new URL(source, base).href : undefined;
}

interface Looked extends Omit<PageLook, 'elements'> {
  readonly elements: readonly SeenElement[];
}

async function lookWith(
  work: LoadToFinish,
  contextId: number,
  made: readonly string[],
): Promise<Looked | undefined> {
  const { session, order } = work;
  const answer = await within(
    ANSWER_MS,
    session.send('Runtime.callFunctionOn', {
      executionContextId: contextId,
      functionDeclaration: inPage(lookAtPage),
      arguments: [{ value: order.probes ?? [] }, ...made.map((objectId) => ({ objectId }))],
      returnByValue: true,
    }),
  );
  const looked = answer?.exceptionDetails ? undefined : (answer?.result.value as PageLook | undefined);
  if (!looked) return undefined;
  const stacks = await stacksOf(work, contextId, looked.elements.length);
  const elements = looked.elements.map((element, index) => ({
    ...element,
    stack: stacks[index] ?? [],
  }));
  return {
    ...looked,
    elements: elements.slice(0, MAX_ELEMENTS),
  };
}

/** What made each of the elements that were looked at, or what they stand in. */
async function stacksOf(
  { session, recorder }: LoadToFinish,
  contextId: number,
  count: number,
): Promise<readonly Stack[]> {
  const stackAt = async (index: number): Promise<Stack> => {
    for (let up = 0; up < 6; up++) {
      const step = '.parentElement'.repeat(up);
      const { result } = await session.send('Runtime.evaluate', {
        contextId,
        expression: `(window.seenElements[${index}]||{})${step.replaceAll('.', '?.')}`,
      });
      if (result.objectId === undefined || result.subtype !== 'node') return [];
      const { nodeId } = await session.send('DOM.requestNode', { objectId: result.objectId });
      const { creation } = await session.send('DOM.getNodeStackTraces', { nodeId });
      const stack = recorder.stackOf(creation);
      if (stack.length > 0) return stack;
    }
    return [];
  };
  const stacks = await within(
    ANSWER_MS,
    Promise.all(Array.from({ length: Math.min(count, MAX_ELEMENTS) }, (_, index) => stackAt(index))),
  );
  return stacks ?? [];
}
