import {
  ANCHOR_SIDES,
  NAMED_PLACEMENTS,
  anchorSelector,
  isAnchor,
  stepText,
  type Placement,
  type SelectorStep,
} from '../../insert/index.js';
import { toPlanned } from '../../plan/index.js';
import {
  DEVICES,
  openIntervals,
  pageProgram,
  withoutGroups,
  zoneClock,
  type ConsentRules,
  type EnvironmentName,
  type Hours,
  type SiteReach,
} from '../../reach/index.js';
import {
  filledSnapshot,
  orderedParts,
  reachOf,
  type PlacedPart,
  type Snapshot,
  type SnapshotSnippet,
} from '../../snapshot/index.js';
import { consentPath } from './consent-path.js';
import type { LineConsent, LineHours, LinePlace, LineRelease, LineRule, LineStep } from './types.js';

/** A release made ready for browsers. */
export interface CompiledLine {
  readonly release: LineRelease;
  /** Its opening hours, in the order in which its rules number them. */
  readonly hours: readonly Hours[];
  readonly timeZone: string;
}

/** Makes what the one line brings of a set, for one environment: parts in plan order, reaches by core's rules. */
export function compileLine(snapshot: Snapshot, environment: EnvironmentName): CompiledLine {
  const filled = filledSnapshot(snapshot, environment);
  const parts = orderedParts(filled).filter(({ snippet }) =>
    isSent(snippet, filled.site.consent, environment),
  );
  return compileParts(filled.site, parts);
}

/** Some parts of a set whose fields are filled in, made ready for browsers; they keep their order. */
export function compileParts(site: SiteReach, placed: readonly PlacedPart[]): CompiledLine {
  const rules = new RuleBook(site);
  const parts = placed.map((one) => {
    const { placement, code } = toPlanned(one);
    const line = [linePlace(placement), rules.numberOf(one.snippet), code] as const;
    return one.part.per === 'view' ? ([...line, 1] as const) : line;
  });
  return {
    release: [parts, rules.rules, rules.patterns.map(pageProgram), lineConsent(site.consent)],
    hours: rules.hours,
    timeZone: site.timeZone,
  };
}

/** Whether a snippet is on in an environment, and a browser can know when it runs. */
export function isSent(
  { state, limits }: SnapshotSnippet,
  consent: ConsentRules | undefined,
  environment: EnvironmentName,
): boolean {
  const isHere = limits?.environment === undefined || limits.environment === environment;
  // What nobody can be known to have agreed to runs for nobody.
  const isKnowable = limits?.consent === undefined || lineConsent(consent) !== undefined;
  return state === 'on' && isHere && isKnowable;
}

/** Whether a browser can follow how a site's cookie says what a visitor has agreed to. */
export function isConsentReadable(consent: ConsentRules | undefined): boolean {
  return consent === undefined || lineConsent(consent) !== undefined;
}

function linePlace(placement: Placement): LinePlace {
  if (isAnchor(placement)) {
    const side = ANCHOR_SIDES.indexOf(placement.side) as 0 | 1 | 2 | 3;
    return [side, anchorSelector(placement).map(lineStep)];
  }
  return NAMED_PLACEMENTS.indexOf(placement) as LinePlace;
}

/** A step of a selector, its places among its parent's children told apart from what browsers can match. */
function lineStep(step: SelectorStep): LineStep {
  return [
    stepText({ ...step, child: undefined, ofType: undefined }),
    step.isChild ? 1 : 0,
    step.child ?? 0,
    step.ofType ?? 0,
  ];
}

function lineConsent(rules: ConsentRules | undefined): LineConsent | undefined {
  if (!rules) return undefined;
  const names = rules.categories.map(({ key, value }) => value ?? key);
  if (rules.format.kind === 'list') return [rules.cookie, names];
  const path = consentPath(rules.format.path);
  return path && [rules.cookie, names, path];
}

/** Reaches by number, each once. */
class RuleBook {
  readonly rules: LineRule[] = [];
  readonly patterns: string[] = [];
  readonly hours: Hours[] = [];
  readonly #site: SiteReach;
  readonly #numbers = new Map<string, number>();

  constructor(site: SiteReach) {
    this.#site = site;
  }

  numberOf(snippet: SnapshotSnippet): number {
    const { pages, devices, consent = [], hours } = reachOf(snippet);
    const { include, exclude } = withoutGroups(pages, this.#site.pageGroups ?? []);
    const categories = this.#site.consent?.categories ?? [];
    const rule: LineRule = [
      include.map((one) => this.#index(this.patterns, one)),
      exclude.map((one) => this.#index(this.patterns, one)),
      devices ? devices.reduce((sum, device) => sum | (1 << DEVICES.indexOf(device)), 0) : 0,
      consent.map((key) => categories.findIndex((category) => category.key === key)),
      hours ? this.#index(this.hours, hours) + 1 : 0,
    ];
    const key = JSON.stringify(rule);
    const known = this.#numbers.get(key);
    if (known !== undefined) return known;
    this.#numbers.set(key, this.rules.length);
    return this.rules.push(rule) - 1;
  }

  #index<T>(list: T[], value: T): number {
    const text = JSON.stringify(value);
    const found = list.findIndex((one) => JSON.stringify(one) === text);
    return found >= 0 ? found : list.push(value) - 1;
  }
}

const MINUTE_MS = 60_000;

/**
 * Opening hours from a moment on, worked out here, so that no browser needs a clock of the site's zone.
 *
 * @param now - milliseconds since 1970
 * @param aheadMs - how far they reach; whatever is open then stays so
 */
export function lineHours({ hours, timeZone }: CompiledLine, now: number, aheadMs: number): LineHours[] {
  const end = now + aheadMs;
  return hours.map((one) => {
    const changes = openIntervals(one, zoneClock(timeZone), now, end)
      .flat()
      .filter((moment) => moment < end)
      .map((moment) => moment / MINUTE_MS);
    return changes.map((moment, index) => moment - (changes[index - 1] ?? 0));
  });
}
