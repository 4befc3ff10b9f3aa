import type { Environment, VerificationEvent } from '@pragmatica/contract';
import { pageAddress, ReleasePlanner, type DeliveryKey, type Snapshot } from '@pragmatica/core';
import { readBounded } from '../outgoing/read-bounded.js';
import type { SiteClient } from '../outgoing/site-client.js';
import type { PageJudge } from './judge.js';
import { VERIFY_TEXTS } from '../texts/verify.js';
import { say } from '../texts/say.js';

export interface VerificationTask {
  /** How visitors reach the host, e.g. `https://www.example.com`. */
  readonly address: string;
  readonly paths: readonly string[];
  readonly release: number;
  readonly snapshot: Snapshot;
  readonly host: string;
  readonly environment: Environment;
  readonly delivery: DeliveryKey;
  readonly judge: PageJudge;
  readonly client: SiteClient;
  /** Headers that let us in. */
  readonly access: Readonly<Record<string, string>>;
}

type PageEvent = Extract<VerificationEvent, { type: 'page' }>;

/** Pages fetched at once: polite to the site, and enough to keep the line busy. */
const CONCURRENCY = 4;
const TIMEOUT_MS = 15_000;
const MAX_BYTES = 16 * 1024 * 1024;

/** Fetches each page as a visitor would and compares it with its page plan. Ends early when the consumer does. */
export async function* verifySite(task: VerificationTask): AsyncGenerator<VerificationEvent> {
  const { paths, release, address, host, delivery } = task;
  const planner = new ReleasePlanner(task.snapshot, task.environment);
  const counts = { pages: 0, unreachable: 0, parts: 0, delivered: 0 };
  const abort = new AbortController();
  yield { type: 'start', total: paths.length, release, address, host, delivery };
  try {
    const running: Promise<PageEvent>[] = [];
    let next = 0;
    while (next < paths.length || running.length > 0) {
      while (next < paths.length && running.length < CONCURRENCY)
        running.push(visit(task, paths[next++]!, planner, abort.signal));
      const event = await running.shift()!;
      counts.pages++;
      if (event.problem !== null) counts.unreachable++;
      counts.parts += event.parts.length;
      counts.delivered += event.parts.filter((part) => part.state === 'delivered').length;
      yield event;
    }
    yield { type: 'done', counts };
  } finally {
    abort.abort();
  }
}

async function visit(
  { address, host, judge, client, access }: VerificationTask,
  path: string,
  planner: ReleasePlanner,
  signal: AbortSignal,
): Promise<PageEvent> {
  const failed = (status: number | null, problem: string): PageEvent => ({
    type: 'page',
    path,
    status,
    problem,
    parts: [],
  });
  try {
    const response = await client.get(address, path, {
      headers: { accept: 'text/html', 'cache-control': 'no-cache', ...access },
      signal: AbortSignal.any([signal, AbortSignal.timeout(TIMEOUT_MS)]),
    });
    if (response.status >= 300 && response.status < 400) {
      return failed(
        response.status,
        say(VERIFY_TEXTS.pageRedirects, { address: response.headers.get('location') ?? 'nowhere' }),
      );
    }
    if (response.status !== 200)
      return failed(response.status, say(VERIFY_TEXTS.siteAnsweredStatus, { status: response.status }));
    const type = response.headers.get('content-type') ?? '';
    if (!/^text\/html\b/i.test(type))
      return failed(200, say(VERIFY_TEXTS.notHtmlPage, { type: type || VERIFY_TEXTS.unknownType }));
    // The same visitor as the request: no cookie, no device told.
    const load = { page: pageAddress(path, host), device: 'desktop', consent: [], at: Date.now() } as const;
    const bytes = await readBounded(response, MAX_BYTES);
    if (bytes === undefined) return failed(200, VERIFY_TEXTS.pageLargerThan);
    const page = { plan: planner.plan(load), path, url: address + path, bytes, contentType: type };
    const parts = await judge(page, signal);
    return { type: 'page', path, status: 200, problem: null, parts: [...parts] };
  } catch (error) {
    const cause =
      error instanceof Error && error.cause instanceof Error ? error.cause.message : String(error);
    return failed(null, say(VERIFY_TEXTS.pageCouldNot, { cause }));
  }
}
