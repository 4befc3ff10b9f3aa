import { planPage, type PagePlan, type PlannedPart, toPlanned } from '../plan/index.js';
import {
  grantedConsent,
  isLimited,
  pageAddress,
  waitWords,
  type EnvironmentName,
  type PageLoad,
  type VisitorRules,
} from '../reach/index.js';
import { filledSnapshot, orderedParts, type Snapshot } from '../snapshot/index.js';
import { VISIT_TEXTS } from '../texts/visit.js';
import { say } from '../texts/say.js';
import { DEVICE_WINDOWS, type LoadEvidence, type VisitScript } from '../visit/index.js';

/** What a page load should do with a snippet. */
export interface Expectation {
  readonly snippet: string;
  readonly name: string;
  readonly expected:
    /** It runs. */
    | 'runs'
    /** Its code is in the page and waits for something that the visitor has not done. */
    | 'waits'
    /** The page load is not in its reach, or it is off. */
    | 'left-out';
  /** What it waits for, or why it is left out, in words. */
  readonly because?: string;
}

export interface Expected {
  /** Key of the site. */
  readonly site: string;
  readonly plan: PagePlan;
  readonly snippets: readonly Expectation[];
  /** All parts that the set has, as they go into pages. */
  readonly parts: readonly ExpectedPart[];
}

export interface ExpectedPart extends PlannedPart {
  /** Its own code, without what is put around it. */
  readonly own: string;
}

/** Where a visit took place. */
export interface VisitPlace {
  readonly host: string;
  readonly environment: EnvironmentName;
  /** The browser's clock says whether opening hours are on, instead of the server's. */
  readonly byBrowserClock?: boolean;
}

const DAY_MS = 86_400_000;

/**
 * What a page load of a visit should have had. What the visitor agreed to is read from the cookies that were sent.
 *
 * @param cameBefore - snippets that ran in an earlier page load of the same visitor, with the day of the last one
 */
export function expectationOf(
  snapshot: Snapshot,
  { host, environment, byBrowserClock = false }: VisitPlace,
  script: VisitScript,
  load: LoadEvidence,
  cameBefore: ReadonlyMap<string, number> = new Map(),
): Expected {
  const url = new URL(load.finalUrl);
  const width = script.width ?? DEVICE_WINDOWS[script.device].width;
  const asked: PageLoad = {
    page: pageAddress(url.pathname + url.search, host),
    environment,
    device: script.device,
    at: (script.clock ?? load.startedAt) + (byBrowserClock ? (load.day ?? 0) * DAY_MS : 0),
    consent: grantedConsent(snapshot.site.consent, load.cookies),
  };
  const plan = planPage(snapshot, asked);
  const planned = new Set(plan.parts.map(({ snippet }) => snippet));
  const snippets = snapshot.snippets.flatMap(({ key, name, limits }): Expectation[] => {
    const out = plan.leftOut.find(({ snippet }) => snippet === key);
    if (out) return [{ snippet: key, name, expected: 'left-out', because: out.message }];
    if (!planned.has(key)) return [];
    const because = whyWaiting(limits?.visitor, { load, width, came: cameBefore.get(key) });
    return [
      {
        snippet: key,
        name,
        expected: because === undefined ? 'runs' : 'waits',
        ...(because === undefined ? {} : { because }),
      },
    ];
  });
  const parts = orderedParts(filledSnapshot(snapshot, environment)).map((placed) => ({
    ...toPlanned(placed),
    own: placed.part.code,
  }));
  return { site: snapshot.site.key, plan, snippets, parts };
}

interface Visiting {
  readonly load: Pick<LoadEvidence, 'visitor' | 'day' | 'seconds' | 'scrolled' | 'hasLeft'>;
  readonly width: number;
  /** The day on which it came last. */
  readonly came: number | undefined;
}

/** What a snippet still waits for in a visit; undefined where everything has come. */
function whyWaiting(visitor: VisitorRules | undefined, { load, width, came }: Visiting): string | undefined {
  if (!isLimited(visitor)) return undefined;
  const { who, minWidth = 0, maxWidth = Infinity, everyDays = 0 } = visitor;
  if (who !== undefined && who !== load.visitor)
    return who === 'first' ? VISIT_TEXTS.onlyFirst : VISIT_TEXTS.onlyReturning;
  if (width < minWidth || width > maxWidth) return say(VISIT_TEXTS.otherWidth, { width });
  if (came !== undefined && (load.day ?? 0) - came < everyDays)
    return say(VISIT_TEXTS.cameLately, { days: everyDays });
  const { afterSeconds = 0, afterScroll = 0, onLeaving = false } = visitor;
  const open: VisitorRules = {
    ...(afterSeconds > load.seconds ? { afterSeconds } : {}),
    ...(afterScroll > load.scrolled ? { afterScroll } : {}),
    ...(onLeaving && !load.hasLeft ? { onLeaving } : {}),
  };
  return isLimited(open) ? say(VISIT_TEXTS.waitsFor, { wait: waitWords(open) }) : undefined;
}
