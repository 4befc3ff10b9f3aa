import { readCode, type Facts } from '../facts/index.js';
import { say } from '../texts/say.js';
import { RUNG_TITLES, VISIT_TEXTS as T } from '../texts/visit.js';
import type { LoadEvidence, SeenElement } from '../visit/index.js';
import { Attribution, type Owner } from './attribution.js';
import type { PartDelivery } from './delivered.js';
import type { Expected, Expectation } from './expectation.js';
import { judgeDelivered } from './rungs/delivered.js';
import { judgeLoaded } from './rungs/loaded.js';
import { judgeRan } from './rungs/ran.js';
import { judgeReported } from './rungs/reported.js';
import { judgeShown } from './rungs/shown.js';
import {
  RUNGS,
  type ReadPart,
  type Rung,
  type RungCase,
  type RungFound,
  type RungResult,
} from './rungs/types.js';

/** How far one snippet came on one page load. */
export interface SnippetRungs {
  readonly snippet: string;
  readonly name: string;
  readonly expected: Expectation['expected'];
  /** Why it is not expected to run. */
  readonly because?: string;
  readonly rungs: readonly RungResult[];
  /** The first rung that was not reached though it should have been; undefined where all is well. */
  readonly missed?: Rung;
  /** It ran though it should not have. */
  readonly isIntruder: boolean;
}

/** A page load, and what it is judged by. */
export interface LoadToOpen {
  readonly load: LoadEvidence;
  readonly expected: Expected;
  readonly deliveries: readonly PartDelivery[];
  readonly probed: ReadonlyMap<string, string>;
  readonly read?: (code: string) => Facts;
}

/** A page load that was judged, with what it was judged by, for further questions. */
export interface LoadCase {
  readonly attribution: Attribution;
  readonly all: readonly ReadPart[];
  readonly caseOf: (snippet: string, name: string) => RungCase;
  readonly ownerOf: (element: Pick<SeenElement, 'stack' | 'probes'>) => Owner;
  /** What a snippet is called. */
  readonly nameOf: (snippet: string) => string;
  /** Whether a snippet asks for consent. */
  readonly isBanner: (snippet: string | null) => boolean;
}

/** Makes a page load ready for questions. */
export function openLoad({ load, expected, deliveries, probed, read = readCode }: LoadToOpen): LoadCase {
  const all = expected.parts.map((part): ReadPart => ({ ...part, facts: read(part.own) }));
  const attribution = new Attribution(load, all, { site: expected.site, dependsOn: dependsOn(all) });
  const planned = new Set(expected.plan.parts.map(({ key }) => key));
  return {
    attribution,
    all,
    ownerOf: (element) => attribution.ofElement(element, probed),
    nameOf: (snippet) => all.find((part) => part.snippet === snippet)?.name ?? snippet,
    isBanner: (snippet) =>
      all.some((part) => part.snippet === snippet && part.facts.shape.kind === 'consent'),
    caseOf: (snippet, name) => ({
      ...{ snippet, name, load, attribution, expected, all, probed },
      parts: all.filter((part) => part.snippet === snippet && planned.has(part.key)),
      deliveries: deliveries.filter((one) => one.snippet === snippet),
    }),
  };
}

/** Whether a snippet's code uses what another's makes. */
function dependsOn(parts: readonly ReadPart[]): (snippet: string, other: string) => boolean {
  const made = new Map<string, Set<string>>();
  const used = new Map<string, Set<string>>();
  for (const { snippet, facts } of parts) {
    for (const { name } of facts.defines) of(made, snippet).add(name);
    for (const { name } of facts.uses) of(used, snippet).add(name);
  }
  return (snippet, other) => [...of(used, snippet)].some((name) => of(made, other).has(name));
}

function of(map: Map<string, Set<string>>, key: string): Set<string> {
  let set = map.get(key);
  if (!set) map.set(key, (set = new Set()));
  return set;
}

/** How far each snippet came on a page load, and why not further. */
export function judgeSnippets(expected: Expected, opened: LoadCase): readonly SnippetRungs[] {
  return expected.snippets.map((expectation) => judgeSnippet(opened, expectation));
}

function judgeSnippet(opened: LoadCase, { snippet, name, expected, because }: Expectation): SnippetRungs {
  const rung = opened.caseOf(snippet, name);
  const head = { snippet, name, expected, ...(because === undefined ? {} : { because }) };
  if (expected === 'left-out') return { ...head, rungs: [], isIntruder: hasRun(rung) };
  if (expected === 'waits') {
    const delivered = resultOf('delivered', judgeDelivered(rung));
    const others = RUNGS.slice(1).map((one): RungResult => ({
      rung: one,
      state: 'waiting',
      message: because ?? T.waits,
    }));
    const missed = delivered.state === 'failed' ? { missed: 'delivered' as const } : {};
    return { ...head, rungs: [delivered, ...others], ...missed, isIntruder: false };
  }
  const found: Record<Rung, RungFound> = {
    delivered: judgeDelivered(rung),
    loaded: judgeLoaded(rung),
    ran: judgeRan(rung),
    shown: judgeShown(rung),
    reported: judgeReported(rung),
  };
  const rungs = climb(found, rung.load);
  const missed = rungs.find(({ state }) => state === 'failed')?.rung;
  return { ...head, rungs, ...(missed === undefined ? {} : { missed }), isIntruder: false };
}

/**
 * From the lowest rung up, to the first that was not reached. What failed further on did no harm where what the thing is for
 * has come all the same: it shows, or it has reported.
 */
function climb(found: Readonly<Record<Rung, RungFound>>, load: LoadEvidence): readonly RungResult[] {
  const works =
    found.shown.state === 'reached' || (found.reported.state === 'reached' && found.shown.state === 'none');
  const serves = found.shown.state !== 'none' || found.reported.state !== 'none';
  let isBroken = load.status === null;
  return RUNGS.map((rung): RungResult => {
    const one = found[rung];
    if (isBroken) return { rung, state: 'not-reached', message: T.notReached };
    if (one.state === 'failed' && rung !== 'delivered') {
      const isHarmless = (rung === 'loaded' || rung === 'ran') && (works || (!one.isOwn && !serves));
      if (isHarmless)
        return {
          rung,
          state: 'reached',
          message: say(T.despite, { message: one.cause.message }),
          notes: one.cause.evidence,
        };
    }
    if (one.state === 'failed') isBroken = true;
    return resultOf(rung, one);
  });
}

function resultOf(rung: Rung, found: RungFound): RungResult {
  if (found.state === 'failed')
    return { rung, state: 'failed', message: found.cause.message, cause: found.cause };
  return { rung, ...found };
}

/** Whether anything of a snippet happened on a page load. */
function hasRun({ snippet, load, attribution }: RungCase): boolean {
  const isIts = (owner: ReturnType<Attribution['ofRequest']>): boolean =>
    owner.kind === 'snippet' && owner.snippet === snippet;
  return (
    load.requests.some((request) => isIts(attribution.ofRequest(request))) ||
    load.scripts.some(({ id }) => isIts(attribution.ofScript(id)))
  );
}

/** "Loaded". */
export function rungTitle(rung: Rung): string {
  return RUNG_TITLES[rung];
}
