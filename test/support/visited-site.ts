import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import {
  checkDelivery,
  expectationOf,
  filledSnapshot,
  insert,
  judgeVisit,
  orderedParts,
  pageAddress,
  planPage,
  probesOf,
  readCode,
  sayAllDeferred,
  type JudgedLoad,
  type NamedPlacement,
  type Snapshot,
  type SnapshotSnippet,
  type VisitEvidence,
  type VisitScript,
} from '@pragmatica/core';
import { expect } from 'chai';
import { spoken } from './speech.js';
import { BrowserPool, type VisitOrder } from '@pragmatica/visitor';

/** A snippet as a test writes it: its code in one placement, or part by part. */
export interface PlainSnippet extends Partial<Omit<SnapshotSnippet, 'parts' | 'key'>> {
  readonly key: string;
  readonly code?: string;
  readonly at?: NamedPlacement;
  readonly parts?: readonly {
    readonly placement: SnapshotSnippet['parts'][number]['placement'];
    readonly code: string;
  }[];
}

export type Answer = (request: IncomingMessage, response: ServerResponse) => void;

export const script =
  (text: string): Answer =>
  (_, response) =>
    void response.writeHead(200, { 'content-type': 'text/javascript' }).end(text);

export const status =
  (code: number, type = 'text/plain', text = 'no'): Answer =>
  (_, response) =>
    void response.writeHead(code, { 'content-type': type }).end(text);

export const beacon: Answer = (_, response) => void response.writeHead(204).end();

export interface VisitedSite {
  readonly port: number;
  /** What the site's host is; providers are any other name below `.localhost`. */
  readonly host: string;
  readonly pool: BrowserPool;
  /** Answers by host and path, as `crateline.localhost/c.js`. */
  answers: Record<string, Answer>;
  visit(wish: VisitWish): Promise<Seen>;
  close(): Promise<void>;
}

export interface VisitWish {
  readonly snippets: readonly PlainSnippet[];
  readonly page?: string;
  readonly headers?: Readonly<Record<string, string>>;
  readonly script?: Partial<VisitScript>;
  readonly order?: Partial<VisitOrder>;
  readonly consent?: Snapshot['site']['consent'];
  /** What the pages hold, where that is not the set. */
  readonly written?: readonly PlainSnippet[];
}

export interface Seen {
  readonly evidence: VisitEvidence;
  readonly judged: readonly JudgedLoad[];
  readonly screenshots: readonly Buffer[];
}

export const PAGE =
  '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Skerrywick</title></head><body><h1>Ferries</h1>' +
  '<p>Between three islands, every day but Christmas, whatever the weather may be like out there.</p>' +
  '<p><a href="/fares">Fares</a> <button>Search</button></p></body></html>';

/** A site of one page and its providers, and a browser to visit it. */
export async function visitedSite(): Promise<VisitedSite> {
  let answers: Record<string, Answer> = {};
  let current:
    | {
        readonly html: (request: IncomingMessage) => string;
        readonly headers: Readonly<Record<string, string>>;
      }
    | undefined;
  const host = 'ferries.localhost';
  const server: Server = createServer((request, response) => {
    const asked = (request.headers.host ?? '').replace(/:\d+$/, '');
    const path = (request.url ?? '/').split('?', 1)[0]!;
    const answer = answers[asked + path] ?? answers[`${asked}/*`];
    if (answer) answer(request, response);
    else if (asked === host && current)
      response
        .writeHead(200, { 'content-type': 'text/html; charset=utf-8', ...current.headers })
        .end(current.html(request));
    else response.writeHead(404, { 'content-type': 'text/plain' }).end('nothing here');
  });
  await new Promise<void>((resolve) => {
    server.listen(0, '127.0.0.1', resolve);
  });
  const { port } = server.address() as AddressInfo;
  const pool = new BrowserPool({ executable: process.env['PRAGMATICA_CHROMIUM'] });
  return {
    port,
    host,
    pool,
    get answers() {
      return answers;
    },
    set answers(all) {
      answers = all;
    },
    async visit({ snippets, page = PAGE, headers = {}, script: wish = {}, order = {}, consent, written }) {
      const at = (code: string): string => code.replaceAll(':PORT', `:${port}`);
      const set = toSet(snippets, at, consent);
      const served = written ? toSet(written, at, consent) : set;
      current = {
        headers,
        html: ({ headers: { cookie = '' }, url = '/' }) =>
          new TextDecoder().decode(
            insert(
              new TextEncoder().encode(at(page)),
              planPage(served, {
                page: pageAddress(url, host),
                environment: 'live',
                device: wish.device ?? 'desktop',
                at: Date.now(),
                consent:
                  consent && cookie.includes('agreed=yes') ? consent.categories.map(({ key }) => key) : [],
              }).parts,
            ).page,
          ),
      };
      const probed = new Map(
        orderedParts(filledSnapshot(set, 'live')).flatMap(({ key, part }) =>
          probesOf(part.code, readCode(part.code)).map((one): [string, string] => [one, key]),
        ),
      );
      const full: VisitScript = { device: 'desktop', steps: [{ do: 'open', path: '/' }], ...wish };
      const { evidence, screenshots } = await pool.visit({
        address: `http://${host}:${port}`,
        ownOrigins: [],
        script: full,
        thirdParties: { usual: 'real', hosts: [] },
        probes: [...probed.keys()],
        ...order,
      });
      const place = { host, environment: 'live' } as const;
      const judge = (): readonly JudgedLoad[] => {
        const loads = evidence.loads
          .filter((load) => load.status !== null)
          .map((load) => {
            const expected = expectationOf(set, place, full, load);
            const deliveries = checkDelivery(expected.plan, new TextEncoder().encode(load.html), {
              encoding: 'utf-8',
            });
            return { load, expected, deliveries };
          });
        return judgeVisit(loads, probed);
      };
      const judged = judge();
      // What is kept for readers of other languages says the same.
      expect(sayAllDeferred(spoken('deferred', judge))).to.deep.equal(judged);
      return { evidence, screenshots, judged };
    },
    async close() {
      await pool.close();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}

function toSet(
  snippets: readonly PlainSnippet[],
  at: (code: string) => string,
  consent: Snapshot['site']['consent'],
): Snapshot {
  return {
    format: 'pragmatica-set/1',
    site: { key: 'ferries', name: 'Ferries', timeZone: 'Europe/London', ...(consent ? { consent } : {}) },
    snippets: snippets.map(({ key, code = '', at: placement = 'head-end', parts, ...rest }, index) => ({
      key,
      name: key,
      purpose: '',
      provider: '',
      note: '',
      state: 'on',
      pages: { include: [], exclude: [] },
      ...rest,
      parts: (parts ?? [{ placement, code }]).map((part) => ({ ...part, code: at(part.code), rank: index })),
    })),
  };
}

/** The first rung that a snippet missed, and why: `shown: covered`; "well" where all is well. */
export function verdict({ judged }: Seen, snippet: string, load = -1): string {
  const found = judged.at(load)?.snippets.find((one) => one.snippet === snippet);
  if (!found) return 'unknown';
  const missed = found.rungs.find(({ state }) => state === 'failed');
  if (missed) return `${missed.rung}: ${missed.cause?.id ?? ''}`;
  return found.expected === 'runs' ? 'well' : found.expected;
}
