import { prepareParts, type PreparedParts } from '../insert/index.js';
import {
  DEVICES,
  DEVICE_HEADERS,
  PatternSet,
  deviceOf,
  grantedConsent,
  withoutGroups,
  type Device,
  type DeviceHeaders,
  type EnvironmentName,
  type PageAddress,
  type PageLoad,
} from '../reach/index.js';
import {
  filledSnapshot,
  orderedParts,
  reachOf,
  snapshotDigest,
  type Snapshot,
  type SnapshotSnippet,
} from '../snapshot/index.js';
import { Bits } from './bits.js';
import { HoursClock } from './hours-clock.js';
import { planPage, toPlanned } from './plan-page.js';
import type { PagePlan } from './types.js';

/** What a page load gets, ready to be put in, and what that depends on. */
export interface Outcome {
  readonly parts: PreparedParts;
  /** Equal for equal parts of one release, and only for these; empty where there are none. */
  readonly tag: string;
}

/** A page of a release: which page loads of it get what. */
export interface PlannedPage {
  /** Request headers on which it depends which parts the page gets. */
  readonly vary: readonly string[];
  /** Whether any page load of the page gets a part, now or later. */
  readonly isInReach: boolean;
  /** @param now - milliseconds since 1970 */
  outcome(request: Visit, now: number): Outcome;
  /** When opening hours next change what the page gets; `Infinity` where they do not. */
  until(now: number): number;
}

/** What a request says of who sends it; header names in lower case. */
export interface Visit extends DeviceHeaders {
  readonly cookie?: string;
}

/** Sets of parts that are kept ready; a site has a handful. */
const MAX_SETS = 1_000;
/** Combinations of what a page depends on; categories of consent are few. */
const MAX_VARIANTS = 500;
const TAG_LENGTH = 12;

/**
 * A release made ready for many page loads in one environment. All page rules together are one automaton: a page costs
 * as much as its address is long. What is left to ask of a page load are bit sets, one for each thing that it can be;
 * equal outcomes share their bytes.
 */
export class ReleasePlanner {
  readonly #snapshot: Snapshot;
  readonly #environment: EnvironmentName;
  /** Made at the first page load: a release that cannot be made ready harms no other. */
  #compiled: ReleaseTables | undefined;
  /** By what the automaton gives for pages that are alike. */
  readonly #pages = new WeakMap<readonly number[], CompiledPage>();
  readonly #pagesByKey = new Map<string, CompiledPage>();

  constructor(snapshot: Snapshot, environment: EnvironmentName = 'live') {
    this.#snapshot = snapshot;
    this.#environment = environment;
  }

  /** The whole plan of a page load, with reasons; its environment is the planner's. */
  plan(load: Omit<PageLoad, 'environment'>): PagePlan {
    return planPage(this.#snapshot, { ...load, environment: this.#environment });
  }

  /** A page; all that is asked of it later is looked up. */
  page(address: PageAddress): PlannedPage {
    return this.#page(address);
  }

  #page(address: PageAddress): CompiledPage {
    this.#compiled ??= new ReleaseTables(
      filledSnapshot(this.#snapshot, this.#environment),
      this.#environment,
    );
    const matched = this.#compiled.patterns.match(address);
    let page = this.#pages.get(matched);
    if (!page) {
      const key = matched.join();
      page = this.#pagesByKey.get(key);
      if (!page) {
        if (this.#pagesByKey.size >= MAX_SETS) this.#pagesByKey.clear();
        page = new CompiledPage(this.#compiled, matched);
        this.#pagesByKey.set(key, page);
      }
      this.#pages.set(matched, page);
    }
    return page;
  }

  /** The parts of a page load, as `plan` gives them, without the reasons. */
  prepare({ page, device, consent, at }: Omit<PageLoad, 'environment'>): PreparedParts {
    return this.#page(page).of(device, consent, at).parts;
  }
}

interface Running {
  readonly snippet: SnapshotSnippet;
  readonly include: readonly number[];
  readonly exclude: readonly number[];
  readonly clock: HoursClock | undefined;
}

/** What of a release does not depend on the page. */
class ReleaseTables {
  readonly snapshot: Snapshot;
  readonly patterns: PatternSet;
  readonly running: readonly Running[];
  /** By device: what is not for it. */
  readonly notFor: Readonly<Record<Device, Bits>>;
  readonly deviceBound: Bits;
  /** By category of consent: what waits for it. */
  readonly waiting: ReadonlyMap<string, Bits>;
  #digest: string | undefined;
  readonly #parts: ReturnType<typeof orderedParts>;
  readonly #outcomes = new Map<string, Outcome>();

  constructor(snapshot: Snapshot, environment: EnvironmentName) {
    this.snapshot = snapshot;
    this.#parts = orderedParts(snapshot);
    const numbers = new Map<string, number>();
    const numberOf = (pattern: string): number => {
      const number = numbers.get(pattern) ?? numbers.size;
      numbers.set(pattern, number);
      return number;
    };
    const clocks = new Map<string, HoursClock>();
    const clockOf = (snippet: SnapshotSnippet): HoursClock | undefined => {
      const hours = snippet.limits?.hours;
      if (!hours) return undefined;
      const key = JSON.stringify(hours);
      const clock = clocks.get(key) ?? new HoursClock(hours, snapshot.site.timeZone);
      clocks.set(key, clock);
      return clock;
    };
    this.running = snapshot.snippets
      .filter(({ state, parts, limits }) => {
        const isHere = limits?.environment === undefined || limits.environment === environment;
        return state === 'on' && parts.length > 0 && isHere;
      })
      .map((snippet) => {
        const rules = withoutGroups(reachOf(snippet).pages, snapshot.site.pageGroups ?? []);
        return {
          snippet,
          include: rules.include.map(numberOf),
          exclude: rules.exclude.map(numberOf),
          clock: clockOf(snippet),
        };
      });
    this.patterns = new PatternSet([...numbers.keys()]);
    const size = this.running.length;
    const where = (fits: (snippet: SnapshotSnippet) => boolean): Bits =>
      Bits.of(
        size,
        this.running.flatMap(({ snippet }, index) => (fits(snippet) ? [index] : [])),
      );
    this.notFor = Object.fromEntries(
      DEVICES.map((device) => [device, where(({ limits }) => limits?.devices?.includes(device) === false)]),
    ) as Record<Device, Bits>;
    this.deviceBound = where(({ limits }) => limits?.devices !== undefined);
    const categories = new Set(this.running.flatMap(({ snippet }) => snippet.limits?.consent ?? []));
    this.waiting = new Map(
      [...categories].map((key) => [key, where(({ limits }) => limits?.consent?.includes(key) === true)]),
    );
  }

  /** The parts of these running snippets. */
  outcome(running: Bits): Outcome {
    const key = running.key;
    let outcome = this.#outcomes.get(key);
    if (!outcome) {
      if (this.#outcomes.size >= MAX_SETS) this.#outcomes.clear();
      const snippets = new Set(
        this.running.flatMap(({ snippet }, index) => (running.has(index) ? [snippet] : [])),
      );
      const parts = prepareParts(this.#parts.filter(({ snippet }) => snippets.has(snippet)).map(toPlanned));
      outcome = { parts, tag: parts.count === 0 ? '' : this.#tag(running) };
      this.#outcomes.set(key, outcome);
    }
    return outcome;
  }

  /** A release's digest, and which of its snippets: the same in every process that serves it. */
  #tag(running: Bits): string {
    let hash = 0x811c9dc5;
    for (const word of running.words)
      // FNV-1a: the sets of one release are few, and those of two differ in the digest.
      for (let shift = 0; shift < 32; shift += 8)
        hash = Math.imul(hash ^ ((word >>> shift) & 0xff), 0x01000193) >>> 0;
    this.#digest ??= snapshotDigest(this.snapshot);
    return this.#digest.slice(0, TAG_LENGTH) + hash.toString(16).padStart(8, '0');
  }
}

/** Pages that the same patterns match. */
class CompiledPage implements PlannedPage {
  readonly vary: readonly string[];
  readonly isInReach: boolean;
  readonly #release: ReleaseTables;
  readonly #held: Bits;
  readonly #isDeviceBound: boolean;
  readonly #categories: readonly (readonly [key: string, waiting: Bits])[];
  /** Held snippets with hours, by their clock. */
  readonly #clocks: readonly (readonly [clock: HoursClock, bits: Bits])[];
  readonly #variants = new Map<string, Outcome>();
  #since = Infinity;
  #until = -Infinity;
  #closed: Bits | undefined;
  #open = '';
  readonly #only: Outcome | undefined;

  /** @param matched - numbers of the patterns that match the page */
  constructor(release: ReleaseTables, matched: readonly number[]) {
    this.#release = release;
    const patterns = new Set(matched);
    const isMatched = (number: number): boolean => patterns.has(number);
    const held = release.running.flatMap(({ include, exclude }, index) =>
      (include.length === 0 || include.some(isMatched)) && !exclude.some(isMatched) ? [index] : [],
    );
    const size = release.running.length;
    this.#held = Bits.of(size, held);
    this.isInReach = held.length > 0;
    this.#isDeviceBound = release.deviceBound.meets(this.#held);
    this.#categories = [...release.waiting].filter(([, waiting]) => waiting.meets(this.#held));
    const clocks = new Map<HoursClock, Bits>();
    for (const index of held) {
      const { clock } = release.running[index]!;
      if (!clock) continue;
      const bits = clocks.get(clock) ?? new Bits(size);
      bits.add(index);
      clocks.set(clock, bits);
    }
    this.#clocks = [...clocks];
    this.vary = [
      ...(this.#isDeviceBound ? DEVICE_HEADERS : []),
      ...(this.#categories.length > 0 ? ['Cookie'] : []),
    ];
    if (this.vary.length === 0 && this.#clocks.length === 0) this.#only = release.outcome(this.#held);
  }

  until(now: number): number {
    this.#emit(now);
    return this.#until;
  }

  outcome(request: Visit, now: number): Outcome {
    if (this.#only) return this.#only;
    const { consent } = this.#release.snapshot.site;
    return this.of(
      this.#isDeviceBound ? deviceOf(request) : 'desktop',
      this.#categories.length > 0 ? grantedConsent(consent, request.cookie) : [],
      now,
    );
  }

  of(device: Device, consent: readonly string[], now: number): Outcome {
    if (this.#only) return this.#only;
    this.#emit(now);
    const granted = this.#categories.map(([key]) => (consent.includes(key) ? '1' : '0')).join('');
    const key = `${this.#isDeviceBound ? device : ''} ${granted} ${this.#open}`;
    let outcome = this.#variants.get(key);
    if (!outcome) {
      if (this.#variants.size >= MAX_VARIANTS) this.#variants.clear();
      let running = this.#isDeviceBound ? this.#held.without(this.#release.notFor[device]) : this.#held;
      for (const [category, waiting] of this.#categories)
        if (!consent.includes(category)) running = running.without(waiting);
      if (this.#closed) running = running.without(this.#closed);
      outcome = this.#release.outcome(running);
      this.#variants.set(key, outcome);
    }
    return outcome;
  }

  /** Brings what is open up to date; nothing is to be done until the next change. */
  #emit(now: number): void {
    if (now >= this.#since && now < this.#until) return;
    this.#since = now;
    this.#until = Infinity;
    this.#open = '';
    this.#closed = undefined;
    for (const [clock, bits] of this.#clocks) {
      const { isOpen, until } = clock.at(now);
      this.#until = Math.min(this.#until, until);
      this.#open += isOpen ? '1' : '0';
      if (isOpen) continue;
      this.#closed ??= new Bits(this.#release.running.length);
      this.#closed.addAll(bits);
    }
  }
}
