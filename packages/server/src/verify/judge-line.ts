import type { Environment } from '@pragmatica/contract';
import {
  charsetOf,
  compileLine,
  lineName,
  releaseFile,
  type FoundLine,
  type LineForm,
  type LoadedLine,
  type Snapshot,
} from '@pragmatica/core';
import { readBounded } from '../outgoing/read-bounded.js';
import { VERIFY_TEXTS } from '../texts/verify.js';
import { say } from '../texts/say.js';
import type { JudgeTools, PageJudge } from './judge.js';

const TIMEOUT_MS = 10_000;
/** A pointer is some hundred bytes, and hours. */
const MAX_BYTES = 1 << 20;

export interface LineToJudge {
  readonly site: string;
  readonly environment: Environment;
  readonly release: number;
  readonly snapshot: Snapshot;
  readonly form: LineForm;
}

/** For pages that get everything by the one line. What a line loads is asked for once, whatever the pages. */
export function judgeLine(
  { readers, client }: JudgeTools,
  { site, environment, release, snapshot, form }: LineToJudge,
): PageJudge {
  const name = lineName(site, environment);
  const { digest } = releaseFile(name, compileLine(snapshot, environment));
  const loads = new Map<string, Promise<LoadedLine>>();
  const load = (line: FoundLine): Promise<LoadedLine> => {
    let loading = loads.get(line.src);
    if (!loading) loads.set(line.src, (loading = loadLine(line, digest, client)));
    return loading;
  };
  return async ({ plan, url, bytes, contentType }) => {
    const source = { url, status: 200, bytes, headers: { 'content-type': contentType } };
    const lines = await readers.run('lines', { source, name });
    const [first] = lines;
    const expected = { form, release, lines, loaded: first && (await load(first)) };
    const encoding = charsetOf(contentType);
    return readers.run('broughtByLine', { plan, page: bytes, encoding, expected });
  };
}

async function loadLine(line: FoundLine, digest: string, client: JudgeTools['client']): Promise<LoadedLine> {
  const failed = (problem: string): LoadedLine => ({ problem, isCurrent: false });
  try {
    const response = await client.getElsewhere(new URL(line.src), {
      headers: { accept: '*/*', 'cache-control': 'no-cache' },
      signal: AbortSignal.timeout(TIMEOUT_MS),
      redirects: 2,
    });
    if (!response.ok) {
      await response.body?.cancel();
      return failed(say(VERIFY_TEXTS.itAnsweredStatus, { status: response.status }));
    }
    if (line.digest !== null) {
      await response.body?.cancel();
      return { problem: null, isCurrent: line.digest === digest };
    }
    const text = await readBounded(response, MAX_BYTES);
    const isCurrent = text !== undefined && Buffer.from(text).includes(digest);
    return { problem: null, isCurrent };
  } catch (error) {
    const isCaused = error instanceof Error && error.cause instanceof Error;
    return failed(isCaused ? (error.cause as Error).message : String(error));
  }
}
