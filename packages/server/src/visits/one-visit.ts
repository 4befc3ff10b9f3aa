import {
  asPlanned,
  compileLine,
  consentCookie,
  decodePage,
  expectationOf,
  filledSnapshot,
  grantedConsent,
  lineName,
  orderedParts,
  pageAddress,
  planPage,
  releaseFile,
  withoutMarks,
  withoutParts,
  type DeliveryKey,
  type Expected,
  type JudgedLoad,
  type LoadToJudge,
  type Snapshot,
  type ThirdPartyRules,
  type VisitEvidence,
  type VisitScript,
} from '@pragmatica/core';
import type { VisitOrder, Visited } from '@pragmatica/visitor';
import type { Host, Site } from '../storage/rows.js';
import type { PictureQuestion } from '../storage/visit-rounds.js';
import type { PageJudge } from '../verify/judge.js';
import { picturedPages } from './pictured-pages.js';
import { addressOf, type VisitTools } from './visiting.js';

/** Where visits take place, and what should be found there. */
export interface VisitGround {
  readonly site: Pick<Site, 'key'>;
  readonly host: Host;
  /** Addresses of all hosts of the site: pages of these may be opened. */
  readonly ownOrigins: readonly string[];
  /** What other hosts get. */
  readonly thirdParties: ThirdPartyRules;
  /** What is served. */
  readonly snapshot: Snapshot;
  /** What the pages get instead, and are judged by: a draft that is rehearsed. */
  readonly instead?: Snapshot | undefined;
  /** Only a picture is wanted: of the page without any snippet, and what a part would show there. */
  readonly picture?: PictureQuestion | undefined;
  readonly judge: PageJudge;
  readonly access: Readonly<Record<string, string>>;
  /** Parts by the selectors that are asked about for them. */
  readonly probed: ReadonlyMap<string, string>;
}

export interface VisitWish {
  readonly script: VisitScript;
  /** Keys of snippets that are taken out of the pages before the browser sees them. */
  readonly without: readonly string[];
  /** It is made to weigh the page: without a picture, and by the same way whether anything is left out or not. */
  readonly weighs?: boolean;
}

export interface JudgedVisit extends Visited {
  readonly judged: readonly JudgedLoad[];
}

const BY_LINE: readonly DeliveryKey[] = ['line', 'async-line'];

/** Lines and pasted guards look at the browser's own clock. */
function looksAtBrowserClock(delivery: DeliveryKey): boolean {
  return BY_LINE.includes(delivery) || delivery === 'paste';
}

/** The selectors of all parts of a set; read in a thread, for it is strangers' code. */
export async function probesOfSet(
  snapshot: Snapshot,
  environment: Host['environment'],
  { readers }: VisitTools,
): Promise<ReadonlyMap<string, string>> {
  const parts = orderedParts(filledSnapshot(snapshot, environment)).map(({ key, part }) => ({
    key,
    code: part.code,
  }));
  return new Map(await readers.run('probes', { parts }));
}

/** One visit: the browser goes there, and what it saw is held against what should have been. */
export async function visitOnce(
  ground: VisitGround,
  wish: VisitWish,
  tools: VisitTools,
): Promise<JudgedVisit> {
  const { host, snapshot, instead, probed, access, ownOrigins, thirdParties } = ground;
  const { script, without, weighs = false } = wish;
  const set = withoutSnippets(instead ?? snapshot, without);
  const { consent } = snapshot.site;
  const cookies = {
    accept: consentCookie(consent, consent?.categories.map(({ key }) => key) ?? []),
    refuse: consentCookie(consent, []),
  };
  const { accept, refuse } = cookies;
  const seen = await tools.pool.visit({
    address: addressOf(host),
    ownOrigins,
    script,
    thirdParties,
    noScreenshot: weighs,
    access,
    probes: [...probed.keys()],
    consentCookies: { ...(accept ? { accept } : {}), ...(refuse ? { refuse } : {}) },
    ...(ground.picture ? picturedPages(ground, ground.picture, tools) : changedPages(ground, wish, set)),
  });
  const visited = { ...seen, evidence: withoutMarks(seen.evidence) };
  if (ground.picture) return { ...visited, judged: [] };
  return { ...visited, judged: await judge(ground, set, script, visited.evidence, tools) };
}

async function judge(
  { host, judge: judgePage, probed }: VisitGround,
  snapshot: Snapshot,
  script: VisitScript,
  { loads }: VisitEvidence,
  { readers }: VisitTools,
): Promise<readonly JudgedLoad[]> {
  const { environment, delivery } = host;
  const place = { host: host.host, environment, byBrowserClock: looksAtBrowserClock(delivery) };
  const came = new Map<string, number>();
  const work: LoadToJudge[] = [];
  for (const load of loads) {
    // A browser that reached nothing has nothing to be judged by.
    if (load.status === null || !URL.canParse(load.finalUrl)) continue;
    const expected: Expected = expectationOf(snapshot, place, script, load, new Map(came));
    const { pathname, search } = new URL(load.finalUrl);
    const page = {
      plan: expected.plan,
      path: pathname + search,
      url: load.finalUrl,
      bytes: new TextEncoder().encode(load.html),
      contentType: 'text/html; charset=utf-8',
    };
    const deliveries = await judgePage(page, AbortSignal.timeout(20_000));
    work.push({ load, expected, deliveries });
    for (const { snippet, expected: state } of expected.snippets)
      if (state === 'runs') came.set(snippet, load.day ?? 0);
  }
  return readers.run('judgeVisit', { loads: work, probed: [...probed] });
}

function withoutSnippets(snapshot: Snapshot, keys: readonly string[]): Snapshot {
  if (keys.length === 0) return snapshot;
  return { ...snapshot, snippets: snapshot.snippets.filter(({ key }) => !keys.includes(key)) };
}

/** Makes of the pages, or of the line's file, what they would be with another set, or at another time. */
function changedPages(
  { site, host, snapshot, instead }: VisitGround,
  { script, without, weighs = false }: VisitWish,
  set: Snapshot,
): Pick<VisitOrder, 'rewrite' | 'rewriteAlso'> {
  const { environment, delivery } = host;
  const isByLine = BY_LINE.includes(delivery);
  const isPlanned = instead !== undefined || (script.clock !== undefined && !looksAtBrowserClock(delivery));
  if (without.length === 0 && !isPlanned && !weighs) return {};
  if (isByLine) {
    const name = lineName(site.key, environment);
    const { path } = releaseFile(name, compileLine(snapshot, environment));
    const { text } = releaseFile(name, compileLine(set, environment));
    return {
      rewriteAlso: [`*/${path}`],
      rewrite: ({ url }) => (url.endsWith(path) ? text : undefined),
    };
  }
  const placed = orderedParts(filledSnapshot(snapshot, environment));
  const left = placed.filter(({ snippet }) => without.includes(snippet.key));
  return {
    rewrite({ isPage, url, body, contentType, headers, cookies }) {
      if (!isPage || !/html/i.test(contentType)) return undefined;
      const { text } = decodePage(body, contentType);
      if (!isPlanned) return withoutParts(text, left, headers);
      const { pathname, search } = new URL(url);
      const plan = planPage(set, {
        page: pageAddress(pathname + search, host.host),
        environment,
        device: script.device,
        at: script.clock ?? Date.now(),
        consent: grantedConsent(set.site.consent, cookies),
      });
      return asPlanned(text, site.key, placed, plan, headers);
    },
  };
}
