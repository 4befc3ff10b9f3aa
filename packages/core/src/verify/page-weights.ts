import type { Device } from '../reach/index.js';
import { say } from '../texts/say.js';
import { WEIGHT_TEXTS as T } from '../texts/weight.js';
import type { VisitFailure, VisitScript } from '../visit/index.js';
import type { JudgedLoad } from './judge-visit.js';
import type { LoadTotals } from './load-totals.js';

/** A visit that is over, with or without some snippets. */
export interface VisitToWeigh {
  readonly path: string;
  readonly script: VisitScript;
  /** Keys of the snippets that were left out. */
  readonly without: readonly string[];
  readonly failure: VisitFailure | null;
  readonly judged: readonly JudgedLoad[];
}

/** What a snippet adds to a page. Where a visit without it differed by no more than two equal visits, it adds nothing. */
export interface SnippetWeight {
  readonly snippet: string;
  readonly name: string;
  readonly adds: LoadTotals;
}

/** One page on one device, with the snippets and without. */
export interface PageWeight {
  readonly path: string;
  readonly device: Device;
  readonly full: LoadTotals;
  readonly bare: LoadTotals;
  /** What all snippets add together. */
  readonly adds: LoadTotals;
  /** The heaviest first; none where the page has too many to leave out each in turn. */
  readonly snippets: readonly SnippetWeight[];
  /** Bytes that go only with several of them: left out alone, each leaves what the others load. */
  readonly sharedBytes: number;
  /** How many snippets run there. */
  readonly running: number;
}

/** What came out of weighing. */
export interface Weighing {
  readonly pages: readonly PageWeight[];
  /** Pages that could not be weighed: a visit that is needed came to no end. */
  readonly failed: readonly { readonly path: string; readonly device: Device }[];
}

/** Sums up visits that leave snippets out in turn; see `weighingVisits`. */
export function pageWeights(visits: readonly VisitToWeigh[]): Weighing {
  const pages: PageWeight[] = [];
  const failed: { path: string; device: Device }[] = [];
  for (const [first, ...others] of byPage(visits)) {
    const { path, script } = first;
    const { device } = script;
    const weight = weighPage([first, ...others]);
    if (weight) pages.push({ path, device, ...weight });
    else failed.push({ path, device });
  }
  return { pages, failed };
}

function byPage(visits: readonly VisitToWeigh[]): Iterable<[VisitToWeigh, ...VisitToWeigh[]]> {
  const groups = new Map<string, [VisitToWeigh, ...VisitToWeigh[]]>();
  for (const visit of visits) {
    const key = `${visit.script.device} ${visit.path}`;
    const group = groups.get(key);
    if (group) group.push(visit);
    else groups.set(key, [visit]);
  }
  return groups.values();
}

function weighPage(visits: readonly VisitToWeigh[]): Omit<PageWeight, 'path' | 'device'> | undefined {
  const most = Math.max(...visits.map(({ without }) => without.length));
  const fulls = visits.filter(({ without }) => without.length === 0);
  const bares = visits.filter(({ without }) => without.length === most && most > 0);
  const full = meanOf(fulls);
  const bare = meanOf(bares);
  if (!full || !bare) return undefined;
  const chance = spreadOf(fulls, bares);
  const names = namesIn(fulls);
  const singles = visits.filter(({ without }) => without.length === 1 && without.length < most);
  const only = [...names].filter(([key]) => !singles.some(({ without }) => without[0] === key));
  const snippets = singles.flatMap((visit): SnippetWeight[] => {
    const totals = totalsOfVisit(visit);
    const [snippet = ''] = visit.without;
    if (!totals) return [];
    return [{ snippet, name: names.get(snippet) ?? snippet, adds: minus(full, totals, chance) }];
  });
  // The page without any is the page without the one snippet that it has.
  const [sole] = only;
  if (singles.length === 0 && only.length === 1 && sole)
    snippets.push({ snippet: sole[0], name: sole[1], adds: minus(full, bare, chance) });
  const adds = minus(full, bare, chance);
  const rest = adds.bytes - snippets.reduce((sum, one) => sum + Math.max(0, one.adds.bytes), 0);
  return {
    ...{ full, bare, adds },
    sharedBytes: snippets.length > 0 && rest > adds.bytes * LEAST_SHARED ? rest : 0,
    running: names.size,
    snippets: snippets.sort((a, b) => b.adds.bytes - a.adds.bytes || b.adds.requests - a.adds.requests),
  };
}

/** Names of the snippets that ran. */
function namesIn(visits: readonly VisitToWeigh[]): ReadonlyMap<string, string> {
  return new Map(
    visits.flatMap(({ judged }) =>
      judged.flatMap(({ snippets }) =>
        snippets.filter(({ expected }) => expected !== 'left-out').map((one) => [one.snippet, one.name]),
      ),
    ),
  );
}

/** What compression saves here and there is nobody's. */
const LEAST_SHARED = 0.03;

type Figure = 'requests' | 'bytes' | 'blockingMs' | 'shift';

/** All page loads of a visit together; undefined where it came to no end. */
function totalsOfVisit({ failure, judged }: VisitToWeigh): LoadTotals | undefined {
  const loads = judged.flatMap(({ totals }) => totals ?? []);
  if (failure !== null || loads.length === 0) return undefined;
  const sum = (figure: Figure): number => loads.reduce((total, load) => total + load[figure], 0);
  return {
    ...{ requests: sum('requests'), bytes: sum('bytes') },
    ...{ blockingMs: sum('blockingMs'), shift: sum('shift') },
    readyMs: loads.at(-1)!.readyMs,
  };
}

function meanOf(visits: readonly VisitToWeigh[]): LoadTotals | undefined {
  const all = visits.flatMap((visit) => totalsOfVisit(visit) ?? []);
  if (all.length === 0) return undefined;
  const mean = (figure: Figure): number => all.reduce((sum, one) => sum + one[figure], 0) / all.length;
  const ready = all.flatMap(({ readyMs }) => readyMs ?? []);
  return {
    ...{ requests: mean('requests'), bytes: mean('bytes') },
    ...{ blockingMs: mean('blockingMs'), shift: mean('shift') },
    readyMs: ready.length === all.length ? ready.reduce((sum, one) => sum + one, 0) / all.length : undefined,
  };
}

/** By how much equal visits differ. */
function spreadOf(...groups: readonly (readonly VisitToWeigh[])[]): LoadTotals {
  const all = groups.map((group) => group.flatMap((visit) => totalsOfVisit(visit) ?? []));
  const spread = (figure: (one: LoadTotals) => number): number =>
    Math.max(
      ...all.map((group) => {
        const values = group.map(figure);
        return values.length < 2 ? 0 : Math.max(...values) - Math.min(...values);
      }),
    );
  return {
    requests: spread(({ requests }) => requests),
    bytes: spread(({ bytes }) => bytes),
    blockingMs: spread(({ blockingMs }) => blockingMs),
    shift: spread(({ shift }) => shift),
    readyMs: spread(({ readyMs = 0 }) => readyMs),
  };
}

/** What one costs more than another, chance left out. */
function minus(one: LoadTotals, other: LoadTotals, chance: LoadTotals): LoadTotals {
  const more = (figure: Figure): number => {
    const difference = one[figure] - other[figure];
    return Math.abs(difference) <= chance[figure] ? 0 : difference;
  };
  const ready =
    one.readyMs === undefined || other.readyMs === undefined ? undefined : one.readyMs - other.readyMs;
  return {
    ...{ requests: more('requests'), bytes: more('bytes') },
    ...{ blockingMs: more('blockingMs'), shift: more('shift') },
    readyMs: ready !== undefined && Math.abs(ready) <= (chance.readyMs ?? 0) ? 0 : ready,
  };
}

const KB = 1_000;
/** A snippet with so much of all that is added is the one to begin with. */
const MAIN_SHARE = 0.3;

/** A page held against what snippets may add to it. */
export interface WeighedPage extends PageWeight {
  /** Undefined where there is no budget. */
  readonly isWithin: boolean | undefined;
  readonly sentence: string;
  /** What to do; empty where all is well. */
  readonly advice: string;
}

/** @param budgetKb - kilobytes (of 1,000 bytes) that all snippets together may add to a page */
export function heldAgainst(page: PageWeight, budgetKb: number | null): WeighedPage {
  const { path, adds, snippets } = page;
  const added = kb(adds.bytes);
  if (budgetKb === null)
    return { ...page, isWithin: undefined, sentence: say(T.adds, { added, path }), advice: '' };
  if (adds.bytes <= budgetKb * KB)
    return {
      ...page,
      isWithin: true,
      sentence: say(T.within, { added, path, budget: budgetKb }),
      advice: '',
    };
  const over = kb(adds.bytes - budgetKb * KB);
  const [first] = snippets;
  return {
    ...page,
    isWithin: false,
    sentence: say(T.over, { added, path, over, budget: budgetKb }),
    advice:
      first && first.adds.bytes >= adds.bytes * MAIN_SHARE
        ? say(T.heaviest, { name: first.name, bytes: kb(first.adds.bytes) })
        : T.spread,
  };
}

function kb(bytes: number): number {
  return Math.round(bytes / (KB / 10)) / 10;
}
