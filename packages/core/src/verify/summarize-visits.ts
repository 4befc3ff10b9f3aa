import type { Device } from '../reach/index.js';
import { say } from '../texts/say.js';
import { VISIT_TEXTS as T } from '../texts/visit.js';
import type { VisitFailure, VisitScript } from '../visit/index.js';
import type { JudgedLoad } from './judge-visit.js';
import type { Covered, Overlap } from './overlap.js';
import type { ConsentStage, Disclosure } from './privacy.js';
import type { SummedBy } from './reports.js';
import { RUNGS, type Cause, type Rung, type RungState } from './rungs/types.js';
import type { Doubled } from './twice.js';
import type { Weight } from './weight.js';

/** A visit that is over. */
export interface VisitToSum {
  readonly number: number;
  readonly path: string;
  readonly script: VisitScript;
  readonly failure: VisitFailure | null;
  readonly judged: readonly JudgedLoad[];
}

/** Where something was seen. */
export interface SeenAt {
  readonly visit: number;
  /** Of the visit's page loads, from 0. */
  readonly load: number;
  readonly path: string;
  readonly device: Device;
}

/** How far a snippet came on one kind of device, over all page loads that should have had it. */
export interface DeviceRungs {
  readonly device: Device;
  /** Page loads on which it was expected to run. */
  readonly loads: number;
  readonly rungs: Readonly<Record<Rung, RungState>>;
}

export interface SummedSnippet {
  readonly snippet: string;
  readonly name: string;
  /** Kinds of devices on which it was expected, or waited; empty where it was on none of the page loads. */
  readonly devices: readonly DeviceRungs[];
  /** What kept it from the next rung, each with where. */
  readonly problems: readonly {
    readonly rung: Rung;
    readonly cause: Cause;
    readonly at: readonly SeenAt[];
  }[];
  /** Where it ran though it should not have, with the reason why not. */
  readonly intruder: {
    readonly message: string;
    readonly advice: string;
    readonly at: readonly SeenAt[];
  } | null;
  /** Why it was left out of all page loads, where it was. */
  readonly leftOut: string | null;
}

/** What one snippet told one host, over all page loads. */
export interface SummedReports {
  /** Null for the page itself, undefined where nobody knows. */
  readonly snippet: string | null | undefined;
  readonly name: string;
  readonly host: string;
  readonly count: number;
  /** How many of them each answered. */
  readonly by: SummedBy;
}

type At<T> = T & { readonly at: readonly SeenAt[] };

/** All that a round of visits found. */
export interface RoundSummary {
  readonly isWell: boolean;
  readonly snippets: readonly SummedSnippet[];
  readonly overlaps: readonly At<Overlap>[];
  readonly covered: readonly At<Covered>[];
  readonly doubled: readonly At<Doubled>[];
  /** By what the visitor had said. */
  readonly stages: readonly { readonly stage: ConsentStage; readonly disclosures: readonly Disclosure[] }[];
  /** Means over the page loads that had each. */
  readonly weights: readonly Weight[];
  readonly reports: readonly SummedReports[];
  /** Visits that came to no end. */
  readonly failed: readonly {
    readonly visit: number;
    readonly path: string;
    readonly failure: VisitFailure;
  }[];
}

/** Worst first: what a round says of a rung is the worst of its page loads. */
const WORST: readonly RungState[] = ['failed', 'not-reached', 'waiting', 'reached', 'none'];

/** Sums up the visits of a round. */
export function summarizeVisits(visits: readonly VisitToSum[]): RoundSummary {
  const snippets = sumSnippets(visits);
  const overlaps = gather(
    visits,
    ({ overlaps: all }) => all,
    ({ upper, lower }) => `${upper.selector} ${lower.selector}`,
  );
  const covered = gather(
    visits,
    ({ covered: all }) => all,
    ({ by, control }) => `${by.selector} ${control.selector}`,
  );
  const doubled = gather(
    visits,
    ({ doubled: all }) => all,
    ({ kind, url }) => `${kind} ${url.split('?', 1)[0]!}`,
  );
  const failed = visits.flatMap(({ number, path, failure }) =>
    failure === null ? [] : [{ visit: number, path, failure }],
  );
  return {
    isWell:
      failed.length === 0 &&
      doubled.length === 0 &&
      covered.every(({ canBeClosed }) => canBeClosed) &&
      snippets.every(({ problems, intruder }) => problems.length === 0 && intruder === null),
    snippets,
    overlaps,
    covered,
    doubled,
    stages: sumStages(visits),
    weights: sumWeights(visits),
    reports: sumReports(visits),
    failed,
  };
}

function* loadsOf(
  visits: readonly VisitToSum[],
): Generator<{ readonly judged: JudgedLoad; readonly at: SeenAt }> {
  for (const { number, path, script, judged } of visits)
    for (const [load, one] of judged.entries())
      yield { judged: one, at: { visit: number, load, path, device: script.device } };
}

function sumSnippets(visits: readonly VisitToSum[]): SummedSnippet[] {
  interface Sum {
    name: string;
    devices: Map<Device, { loads: number; rungs: Record<Rung, RungState[]> }>;
    problems: Map<string, { rung: Rung; cause: Cause; at: SeenAt[] }>;
    intruder: { message: string; advice: string; at: SeenAt[] } | null;
    leftOut: string | null;
  }
  const sums = new Map<string, Sum>();
  for (const { judged, at } of loadsOf(visits))
    for (const { snippet, name, expected, because = '', rungs, isIntruder } of judged.snippets) {
      let sum = sums.get(snippet);
      if (!sum)
        sums.set(
          snippet,
          (sum = { name, devices: new Map(), problems: new Map(), intruder: null, leftOut: null }),
        );
      if (expected === 'left-out') {
        sum.leftOut ??= because;
        if (isIntruder) {
          const message = say(T.deliveredThough, { because });
          (sum.intruder ??= { message, advice: T.deliveredThoughAdvice, at: [] }).at.push(at);
        }
        continue;
      }
      let device = sum.devices.get(at.device);
      if (!device) {
        const empty = Object.fromEntries(RUNGS.map((rung) => [rung, [] as RungState[]])) as Record<
          Rung,
          RungState[]
        >;
        sum.devices.set(at.device, (device = { loads: 0, rungs: empty }));
      }
      if (expected === 'runs') device.loads++;
      for (const { rung, state, cause } of rungs) {
        device.rungs[rung].push(state);
        if (!cause) continue;
        const key = `${rung} ${cause.id} ${cause.message}`;
        const known = sum.problems.get(key);
        if (known) known.at.push(at);
        else sum.problems.set(key, { rung, cause, at: [at] });
      }
    }
  return [...sums].map(([snippet, { name, devices, problems, intruder, leftOut }]) => ({
    snippet,
    name,
    devices: [...devices].map(([device, { loads, rungs }]) => ({
      device,
      loads,
      rungs: worstOf(rungs, loads > 0),
    })),
    problems: [...problems.values()],
    intruder,
    leftOut: devices.size === 0 ? leftOut : null,
  }));
}

/** What waits in one visit and runs in another has run. */
function worstOf(
  rungs: Readonly<Record<Rung, readonly RungState[]>>,
  hasRun: boolean,
): Record<Rung, RungState> {
  return Object.fromEntries(
    RUNGS.map((rung) => {
      const states = rungs[rung].filter((state) => !hasRun || state !== 'waiting');
      return [rung, WORST.find((state) => states.includes(state)) ?? 'none'];
    }),
  ) as Record<Rung, RungState>;
}

function gather<T extends object>(
  visits: readonly VisitToSum[],
  of: (load: JudgedLoad) => readonly T[],
  keyOf: (one: T) => string,
): At<T>[] {
  const found = new Map<string, { one: T; at: SeenAt[] }>();
  for (const { judged, at } of loadsOf(visits))
    for (const one of of(judged)) {
      const key = keyOf(one);
      const known = found.get(key);
      if (known) known.at.push(at);
      else found.set(key, { one, at: [at] });
    }
  return [...found.values()].map(({ one, at }) => ({ ...one, at }));
}

const STAGES: readonly ConsentStage[] = ['before', 'refused', 'accepted'];

function sumStages(visits: readonly VisitToSum[]): RoundSummary['stages'] {
  return STAGES.map((stage) => {
    const sums = new Map<
      string,
      { one: Disclosure; stored: Map<string, Disclosure['stored'][number]>; hosts: Map<string, number> }
    >();
    for (const { judged } of loadsOf(visits))
      for (const { disclosures } of judged.stages.filter((one) => one.stage === stage))
        for (const one of disclosures) {
          const key = String(one.snippet);
          let sum = sums.get(key);
          if (!sum) sums.set(key, (sum = { one, stored: new Map(), hosts: new Map() }));
          for (const write of one.stored) sum.stored.set(`${write.where} ${write.key}`, write);
          for (const { host, requests } of one.hosts)
            sum.hosts.set(host, Math.max(sum.hosts.get(host) ?? 0, requests));
        }
    return {
      stage,
      disclosures: [...sums.values()].map(({ one: { snippet, name }, stored, hosts }) => ({
        snippet,
        name,
        stored: [...stored.values()],
        hosts: [...hosts].map(([host, requests]) => ({ host, requests })),
      })),
    };
  }).filter(({ disclosures }) => disclosures.length > 0);
}

function sumWeights(visits: readonly VisitToSum[]): readonly Weight[] {
  const sums = new Map<
    string,
    { one: Weight; loads: number; requests: number; bytes: number; blockingMs: number }
  >();
  for (const { judged } of loadsOf(visits))
    for (const one of judged.weights) {
      const key = String(one.snippet);
      let sum = sums.get(key);
      if (!sum) sums.set(key, (sum = { one, loads: 0, requests: 0, bytes: 0, blockingMs: 0 }));
      sum.loads++;
      sum.requests += one.requests;
      sum.bytes += one.bytes;
      sum.blockingMs += one.blockingMs;
    }
  const mean = (sum: number, loads: number): number => Math.round(sum / loads);
  return [...sums.values()]
    .map(({ one: { snippet, name }, loads, requests, bytes, blockingMs }) => ({
      snippet,
      name,
      requests: mean(requests, loads),
      bytes: mean(bytes, loads),
      blockingMs: mean(blockingMs, loads),
    }))
    .sort((a, b) => b.bytes - a.bytes);
}

function sumReports(visits: readonly VisitToSum[]): readonly SummedReports[] {
  const sums = new Map<string, SummedReports>();
  for (const { judged } of loadsOf(visits))
    for (const { snippet, name, host, by } of judged.reports ?? []) {
      const key = `${String(snippet)} ${host}`;
      const sum = sums.get(key) ?? { snippet, name, host, count: 0, by: {} };
      sums.set(key, { ...sum, count: sum.count + 1, by: { ...sum.by, [by]: (sum.by[by] ?? 0) + 1 } });
    }
  return [...sums.values()].sort((a, b) => b.count - a.count || a.host.localeCompare(b.host));
}
