import { memoizeByObject } from '../memoize/by-object.js';
import { memoizeByText } from '../memoize/by-text.js';
import { DEVICES, type Device } from './device.js';
import {
  hoursMeeting,
  hoursOpen,
  hoursOutside,
  zoneClock,
  type Hours,
  type Interval,
} from './hours/index.js';
import { PageUniverse, pageMatcher, withoutGroups, type PageAddress, type PageRules } from './pages/index.js';
import { ENVIRONMENT_NAMES, type EnvironmentName, type Reach, type SiteReach } from './reach.js';
import { mayNotCome, type VisitorRules } from './visitor.js';
import type { Witness } from './witness.js';

/** A dimension of reaches. */
export type Dimension = 'pages' | 'environment' | 'device' | 'hours' | 'consent' | 'visitor' | 'window';

export interface ReachWorld {
  readonly site: SiteReach;
  /** Paths of the site's pages. */
  readonly paths?: readonly string[];
  /** The site's hosts; without them any host may be in any environment. */
  readonly hosts?: readonly { readonly host: string; readonly environment: EnvironmentName }[];
  /** Page rules that are likely to be asked about. */
  readonly rules?: readonly PageRules[];
  /** Only what comes after this moment counts; milliseconds since 1970. */
  readonly from?: number;
}

/** What was found out about pages and hours holds as long as these stay the same, from one look at a set to the next. */
const universes = memoizeByObject((paths: readonly string[]) =>
  memoizeByText(4, (patterns) => new PageUniverse(paths, JSON.parse(patterns) as string[])),
);
const timesOf = memoizeByText(8, () => new Map<string, Interval | undefined>());
const NO_PATHS: readonly string[] = [];

function universeOf({ paths = NO_PATHS, rules = [], site }: ReachWorld): PageUniverse {
  const patterns = new Set<string>();
  for (const one of rules) {
    const { include, exclude } = withoutGroups(one, site.pageGroups ?? []);
    for (const pattern of include) patterns.add(pattern);
    for (const pattern of exclude) patterns.add(pattern);
  }
  return universes(paths)(JSON.stringify([...patterns]));
}

/** Where a reach holds a page load that another does not. */
export interface Outside {
  readonly witness: Witness;
  readonly dimension: Dimension;
}

/**
 * Reaches as sets of page loads. Each is a product of its dimensions (pages with their host and environment are one),
 * so two meet where they meet in every dimension, and one holds another unless some dimension of it does not.
 */
export class ReachAlgebra {
  readonly #world: ReachWorld;
  readonly #pages: PageUniverse;
  readonly #rules = new Map<PageRules, PageRules>();
  readonly #times: Map<string, Interval | undefined>;
  #isExact = true;

  constructor(world: ReachWorld) {
    this.#world = world;
    this.#pages = universeOf(world);
    this.#times = timesOf(`${world.site.timeZone} ${this.#from}`);
  }

  /** Whether all answers so far hold for every possible page, or some only for the known ones. */
  get isExact(): boolean {
    return this.#isExact;
  }

  /** A page load that both hold. */
  meets(a: Reach, b: Reach): Witness | undefined {
    if (isUnlimited(a) && isUnlimited(b)) return this.#witness({}, FRONT_PAGE);
    const device = common(devicesOf(a), devicesOf(b))[0];
    const who = commonWho(a.visitor, b.visitor);
    const width = commonWidth(a.visitor, b.visitor);
    if (device === undefined || who === 'none' || width === undefined) return undefined;
    const time = this.#time('meeting', a.hours, b.hours);
    if (!time) return undefined;
    const environments = common(environmentsOf(a), environmentsOf(b));
    if (environments.length === 0) return undefined;
    const page = this.#page([a.pages, b.pages], [], environments);
    if (!page) return undefined;
    const consent = [...new Set([...(a.consent ?? []), ...(b.consent ?? [])])];
    return this.#witness({ ...merge(a, b), consent }, page, time, device);
  }

  /** A page load that `inner` holds and `outer` does not, and the dimension for which it does not. */
  outside(inner: Reach, outer: Reach): Outside | undefined {
    if (isUnlimited(outer)) return undefined;
    const whole = this.meets(inner, inner);
    if (!whole) return undefined;
    const environments = environmentsOf(inner);
    const outsidePage = this.#page([inner.pages], [outer.pages], environments);
    if (outsidePage) return { witness: { ...whole, ...outsidePage }, dimension: 'pages' };
    const other = environments.filter((name) => !environmentsOf(outer).includes(name));
    const elsewhere = other.length > 0 ? this.#page([inner.pages], [], other) : undefined;
    if (elsewhere)
      return { witness: { ...whole, ...elsewhere, mentionsEnvironment: true }, dimension: 'environment' };
    const device = devicesOf(inner).find((name) => !devicesOf(outer).includes(name));
    if (device) return { witness: { ...whole, device, mentionsDevice: true }, dimension: 'device' };
    const time = this.#time('outside', inner.hours, outer.hours);
    if (time) return { witness: { ...whole, at: time[0], mentionsTime: true }, dimension: 'hours' };
    const missing = (outer.consent ?? []).filter((key) => !(inner.consent ?? []).includes(key));
    if (missing.length > 0)
      return { witness: { ...whole, consent: inner.consent ?? [], without: missing }, dimension: 'consent' };
    if (outer.visitor?.who !== undefined && inner.visitor?.who !== outer.visitor.who) {
      const visitor = outer.visitor.who === 'first' ? 'returning' : 'first';
      return { witness: { ...whole, visitor }, dimension: 'visitor' };
    }
    const width = widthOutside(inner.visitor, outer.visitor);
    if (width !== undefined) return { witness: { ...whole, width }, dimension: 'window' };
    const isAlike = JSON.stringify(inner.visitor) === JSON.stringify(outer.visitor);
    return mayNotCome(outer.visitor) && !isAlike
      ? { witness: { ...whole, isNotYet: true }, dimension: 'visitor' }
      : undefined;
  }

  /** Whether `outer` holds every page load of `inner`. */
  contains(outer: Reach, inner: Reach): boolean {
    return this.outside(inner, outer) === undefined;
  }

  /** The dimension for which a reach holds no page load at all; undefined where it holds one. */
  emptyFor(reach: Reach): Dimension | undefined {
    const { minWidth = 0, maxWidth = Infinity } = reach.visitor ?? {};
    if (devicesOf(reach).length === 0) return 'device';
    if (minWidth > maxWidth) return 'window';
    if (!this.#page([reach.pages], [], ENVIRONMENT_NAMES)) return 'pages';
    if (!this.#page([reach.pages], [], environmentsOf(reach))) return 'environment';
    if (reach.hours && !this.#time('open', reach.hours, undefined)) return 'hours';
    return undefined;
  }

  /** Whether a reach's pages hold one. */
  holdsPage(rules: PageRules, page: PageAddress): boolean {
    return pageMatcher(this.#plain(rules)).match(page).matches;
  }

  #plain(rules: PageRules): PageRules {
    let plain = this.#rules.get(rules);
    if (!plain) this.#rules.set(rules, (plain = withoutGroups(rules, this.#world.site.pageGroups ?? [])));
    return plain;
  }

  #page(
    held: readonly PageRules[],
    notHeld: readonly PageRules[],
    environments: readonly EnvironmentName[],
  ): Place | undefined {
    const { hosts } = this.#world;
    const isAny = environments.length === ENVIRONMENT_NAMES.length;
    const there = hosts?.filter(({ environment }) => isAny || environments.includes(environment)) ?? [];
    // A site without a host yet may get any.
    if (there.length === 0 && hosts && hosts.length > 0 && !isAny) return undefined;
    const answer = this.#pages.find(
      held.map((rules) => this.#plain(rules)),
      notHeld.map((rules) => this.#plain(rules)),
      there.map(({ host }) => host),
    );
    if (!answer.isExact) this.#isExact = false;
    if (!answer.page) return undefined;
    const { page } = answer;
    const known = there.find(({ host }) => host === page.host)?.environment;
    return {
      page,
      environment: known ?? (environments.includes('live') ? 'live' : (environments[0] ?? 'live')),
    };
  }

  #time(
    what: 'meeting' | 'outside' | 'open',
    a: Hours | undefined,
    b: Hours | undefined,
  ): Interval | undefined {
    if (!a && !b) return what === 'outside' ? undefined : [this.#from, Infinity];
    const key = `${what} ${JSON.stringify([a, b])}`;
    if (!this.#times.has(key)) {
      const clock = zoneClock(this.#world.site.timeZone);
      const work = { meeting: hoursMeeting, outside: hoursOutside, open: hoursOpenOf }[what];
      this.#times.set(key, work(a, b, clock, this.#from));
    }
    return this.#times.get(key);
  }

  get #from(): number {
    return this.#world.from ?? 0;
  }

  #witness(
    limits: { readonly consent?: readonly string[]; readonly mentions?: Mentions },
    place: Place,
    time: Interval = [this.#from, Infinity],
    device: Device = 'desktop',
  ): Witness {
    return { ...place, device, at: time[0], consent: limits.consent ?? [], ...(limits.mentions ?? {}) };
  }
}

interface Place {
  readonly page: PageAddress;
  readonly environment: EnvironmentName;
}

const FRONT_PAGE: Place = { page: { host: '', pathname: '/', search: '' }, environment: 'live' };

type Mentions = Pick<Witness, 'mentionsDevice' | 'mentionsTime' | 'mentionsEnvironment'>;

/** What a witness of a meeting must say, because at least one of the two is bounded by it. */
function merge(a: Reach, b: Reach): { mentions: Mentions } {
  return {
    mentions: {
      mentionsDevice: (a.devices ?? b.devices) !== undefined,
      mentionsTime: (a.hours ?? b.hours) !== undefined,
      mentionsEnvironment: (a.environment ?? b.environment) !== undefined,
    },
  };
}

function hoursOpenOf(
  hours: Hours | undefined,
  _none: Hours | undefined,
  clock: ReturnType<typeof zoneClock>,
  from: number,
): Interval | undefined {
  return hoursOpen(hours, clock, from);
}

function isUnlimited({ pages, environment, devices, hours, consent, visitor }: Reach): boolean {
  const isBounded = environment ?? devices ?? hours ?? visitor;
  const isEverywhere = pages.include.length === 0 && pages.exclude.length === 0;
  return isEverywhere && isBounded === undefined && (consent ?? []).length === 0;
}

function devicesOf({ devices }: Reach): readonly Device[] {
  // A desktop is what people have before them: it is named first.
  return DEVICES.filter((device) => devices?.includes(device) !== false).reverse();
}

function environmentsOf({ environment }: Reach): readonly EnvironmentName[] {
  return environment ? [environment] : ENVIRONMENT_NAMES;
}

function common<T>(a: readonly T[], b: readonly T[]): T[] {
  return a.filter((item) => b.includes(item));
}

function commonWho(a: VisitorRules | undefined, b: VisitorRules | undefined): string | undefined {
  if (a?.who !== undefined && b?.who !== undefined && a.who !== b.who) return 'none';
  return a?.who ?? b?.who;
}

function commonWidth(a: VisitorRules | undefined, b: VisitorRules | undefined): number | undefined {
  const least = Math.max(a?.minWidth ?? 0, b?.minWidth ?? 0);
  return least <= Math.min(a?.maxWidth ?? Infinity, b?.maxWidth ?? Infinity) ? least : undefined;
}

/** A width that the first takes and the second does not. */
function widthOutside(inner: VisitorRules | undefined, outer: VisitorRules | undefined): number | undefined {
  const { minWidth = 0, maxWidth = Infinity } = inner ?? {};
  if (minWidth < (outer?.minWidth ?? 0)) return Math.min(maxWidth, outer!.minWidth! - 1);
  const most = outer?.maxWidth ?? Infinity;
  return maxWidth > most ? Math.max(minWidth, most + 1) : undefined;
}
