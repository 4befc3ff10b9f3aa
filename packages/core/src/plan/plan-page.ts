import {
  dateWords,
  dayAt,
  hoursAt,
  isLimited,
  visitorWords,
  whyOutOfReach,
  zoneClock,
  type PageLoad,
  type SiteReach,
} from '../reach/index.js';
import {
  filledSnapshot,
  orderedParts,
  reachOf,
  type PlacedPart,
  type Snapshot,
  type SnapshotSnippet,
} from '../snapshot/index.js';
import type { LeftOutSnippet, PagePlan, PlannedPart, Reason } from './types.js';
import { waitingCode } from './waiting/index.js';
import { PLAN_TEXTS } from '../texts/plan.js';
import { say } from '../texts/say.js';

/** Plans one page load, with every reason. For many page loads of one release use `ReleasePlanner`. */
export function planPage(snapshot: Snapshot, load: PageLoad): PagePlan {
  const leftOut: LeftOutSnippet[] = [];
  const runs = new Set<string>();
  for (const snippet of snapshot.snippets) {
    const reasons = whyLeftOut(snippet, snapshot.site, load);
    if (reasons.length === 0) runs.add(snippet.key);
    else leftOut.push({ snippet: snippet.key, name: snippet.name, ...reasons[0]!, reasons });
  }
  const until = nextChange(snapshot, load);
  return {
    path: load.page.pathname,
    load,
    parts: orderedParts(filledSnapshot(snapshot, load.environment))
      .filter(({ snippet }) => runs.has(snippet.key))
      .map(toPlanned),
    leftOut,
    ...(until === undefined ? {} : { until }),
  };
}

/** A part as it goes into pages. */
export function toPlanned({ key, snippet, part }: PlacedPart): PlannedPart {
  const visitor = snippet.limits?.visitor;
  return {
    key,
    snippet: snippet.key,
    name: snippet.name,
    placement: part.placement,
    code: waitingCode(part.code, snippet.key, snippet.limits),
    ...(isLimited(visitor) ? { waits: visitorWords(visitor) } : {}),
  };
}

function whyLeftOut(snippet: SnapshotSnippet, site: SiteReach, load: PageLoad): Reason[] {
  return [
    ...stateReasons(snippet, site.timeZone),
    ...(snippet.parts.length === 0 ? [{ reason: 'no-code' as const, message: PLAN_TEXTS.hasNoCode }] : []),
    ...whyOutOfReach(reachOf(snippet), site, load),
  ];
}

function stateReasons({ state, stateSince }: SnapshotSnippet, zone: string): Reason[] {
  if (state === 'on') return [];
  const since = stateSince
    ? say(PLAN_TEXTS.since, { date: dateWords(dayAt(Date.parse(stateSince.at), zone)), by: stateSince.by })
    : '';
  return [
    state === 'off'
      ? { reason: 'off', message: say(PLAN_TEXTS.switchedOffSince, { since }) }
      : { reason: 'archived', message: say(PLAN_TEXTS.archiveSince, { since }) },
  ];
}

/** When opening hours next change anything for this page load. */
function nextChange({ snippets, site }: Snapshot, load: PageLoad): number | undefined {
  const clock = zoneClock(site.timeZone);
  const moments = snippets.flatMap((snippet) => {
    const reach = reachOf(snippet);
    if (snippet.state !== 'on' || snippet.parts.length === 0 || !reach.hours) return [];
    const { hours, ...others } = reach;
    if (whyOutOfReach(others, site, load).length > 0) return [];
    return hoursAt(hours, clock, load.at).until ?? [];
  });
  return moments.length > 0 ? Math.min(...moments) : undefined;
}
