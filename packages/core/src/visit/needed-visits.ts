import {
  DEVICES,
  hoursAt,
  isLimited,
  momentWords,
  zoneClock,
  type Device,
  type VisitorRules,
  deviceName,
} from '../reach/index.js';
import type { Snapshot, SnapshotSnippet } from '../snapshot/index.js';
import { NEEDED_TEXTS } from '../texts/needed-visits.js';
import { say } from '../texts/say.js';
import type { VisitScript, VisitStep } from './script.js';

/** A visit that a page needs, and what it is for. */
export interface NeededVisit {
  readonly script: VisitScript;
  /** "A new visitor on a desktop who does nothing". */
  readonly title: string;
  /** Why: which snippets show only so, or must not. */
  readonly because: string;
}

export interface VisitChoice {
  readonly path: string;
  /** Those that anything depends on when left out. */
  readonly devices?: readonly Device[];
  /** Milliseconds since 1970. */
  readonly now: number;
  /** Keys of the snippets that the page is visited for; all when left out. */
  readonly snippets?: readonly string[];
  /** Of those, the ones that other pages show both ways, with and without what they wait for: here they only have to come. */
  readonly shownElsewhere?: ReadonlySet<string>;
}

/** Waits longer than this are not waited for. */
export const LONGEST_WAIT_S = 20;

/**
 * The visits that show all that a set does on a page, and no more: one that does nothing; one in which everything comes that
 * somebody can bring about, at once, where anything waits for something; one that refuses, where anything asks for consent; one that
 * comes back, where anything tells first visits from later ones; and at other moments, where opening hours are otherwise then.
 */
export function neededVisits(
  snapshot: Snapshot,
  { path, devices, now, snippets, shownElsewhere = new Set() }: VisitChoice,
): readonly NeededVisit[] {
  const running = snapshot.snippets.filter(
    ({ key, state, parts }) => state === 'on' && parts.length > 0 && snippets?.includes(key) !== false,
  );
  const fresh = running.filter(({ key }) => !shownElsewhere.has(key));
  const chosen = devices ?? devicesOf(running);
  return [
    ...chosen.flatMap((device) => visitsOn({ device, path, running, fresh, snapshot })),
    ...otherMoments(fresh, snapshot, now).map(({ at, names }): NeededVisit => ({
      script: { device: chosen[0]!, clock: at, steps: [{ do: 'open', path }] },
      title: say(NEEDED_TEXTS.atMoment, {
        moment: momentWords(at, snapshot.site.timeZone, now),
        on: deviceName(chosen[0]!),
      }),
      because: say(NEEDED_TEXTS.becauseHours, { names }),
    })),
  ];
}

/** A desktop, and each kind of device that a reach tells apart; a phone where something lies over the page. */
function devicesOf(running: readonly SnapshotSnippet[]): readonly Device[] {
  const told = running.flatMap(({ limits }) => limits?.devices ?? []);
  return DEVICES.toReversed().filter(
    (device) => device === 'desktop' || told.includes(device) || device === 'phone',
  );
}

interface VisitsOn {
  readonly device: Device;
  readonly path: string;
  readonly running: readonly SnapshotSnippet[];
  /** Those whose conditions no other page shows. */
  readonly fresh: readonly SnapshotSnippet[];
  readonly snapshot: Snapshot;
}

function visitsOn({
  device,
  path,
  running: all,
  fresh: allFresh,
  snapshot,
}: VisitsOn): readonly NeededVisit[] {
  const isOn = ({ limits }: SnapshotSnippet): boolean =>
    limits?.devices === undefined || limits.devices.includes(device);
  const running = all.filter(isOn);
  const fresh = allFresh.filter(isOn);
  const on = deviceName(device);
  const asks = ({ limits }: SnapshotSnippet): boolean => (limits?.consent ?? []).length > 0;
  const consenting = running.filter(asks);
  const asksConsent = (snapshot.site.consent?.categories.length ?? 0) > 0 && consenting.length > 0;
  const waiting = running.filter(({ limits }) => isLimited(limits?.visitor));
  const returning = fresh.filter(({ limits }) => {
    const { who, everyDays = 0 } = limits?.visitor ?? {};
    return who !== undefined || everyDays > 0;
  });
  const rhythms = returning.map(({ limits }) => limits?.visitor?.everyDays ?? 0);
  const longest = Math.max(0, ...rhythms);
  const open: VisitStep = { do: 'open', path };
  const doing = stepsFor(waiting.map(({ limits }) => limits?.visitor ?? {}));
  const isBrought = asksConsent || doing.length > 0;
  const visits: NeededVisit[] = [];
  // Where something has to be brought about, that visit begins with a page load like this one.
  if (!isBrought || fresh.length > 0 || all.length === 0)
    visits.push({
      script: { device, steps: [open] },
      title: say(NEEDED_TEXTS.firstLook, { on }),
      because: asksConsent || waiting.length > 0 ? NEEDED_TEXTS.firstLookBefore : NEEDED_TEXTS.firstLookAll,
    });
  if (isBrought)
    visits.push({
      script: {
        device,
        steps: asksConsent ? [open, { do: 'consent', choice: 'accept' }, open, ...doing] : [open, ...doing],
      },
      title: say(asksConsent ? NEEDED_TEXTS.accepts : NEEDED_TEXTS.patient, { on }),
      because: say(NEEDED_TEXTS.becauseWaiting, { names: namesOf([...consenting, ...waiting]) }),
    });
  const refused = fresh.filter(asks);
  if (asksConsent && refused.length > 0)
    visits.push({
      script: { device, steps: [open, { do: 'consent', choice: 'refuse' }, open] },
      title: say(NEEDED_TEXTS.refuses, { on }),
      because: say(NEEDED_TEXTS.becauseRefused, { names: namesOf(refused) }),
    });
  if (returning.length > 0)
    visits.push({
      script: { device, steps: [open, ...doing, ...comingBack(rhythms, path, doing)] },
      title:
        longest > 1
          ? say(NEEDED_TEXTS.returnsLater, { on, days: Math.ceil(longest) })
          : say(NEEDED_TEXTS.returns, { on }),
      because: say(NEEDED_TEXTS.becauseReturning, { names: namesOf(returning) }),
    });
  return visits;
}

/**
 * Comes back the next day; besides, where something comes once in so many days, when it must not come yet and when it must again: on the same
 * day for what comes daily, and after so many days for all others.
 *
 * @param rhythms - in days
 */
function comingBack(
  rhythms: readonly number[],
  path: string,
  doing: readonly VisitStep[],
): readonly VisitStep[] {
  const longest = Math.max(...rhythms);
  const back = (days: number): readonly VisitStep[] => [{ do: 'return', path, days }, ...doing];
  return [
    ...(rhythms.some((days) => days > 0 && days <= 1) ? [{ do: 'open', path } as const, ...doing] : []),
    ...back(1),
    ...(longest > 1 ? back(Math.ceil(longest) - 1) : []),
  ];
}

interface OtherMoment {
  readonly at: number;
  /** Whose hours are otherwise then. */
  readonly names: readonly string[];
}

/** A minute after a change of hours everybody agrees that they have changed. */
const AFTER_CHANGE_MS = 60_000;

/** Few moments at which each snippet with opening hours is open where it is closed now, and the other way round. */
export function otherMoments(
  running: readonly SnapshotSnippet[],
  { site }: Snapshot,
  now: number,
): readonly OtherMoment[] {
  const clock = zoneClock(site.timeZone);
  const moments: { readonly at: number; readonly names: string[] }[] = [];
  for (const { name, limits } of running) {
    const { hours } = limits ?? {};
    const state = hours && hoursAt(hours, clock, now);
    if (!hours || state?.until === undefined) continue;
    const known = moments.find(({ at }) => hoursAt(hours, clock, at).isOpen !== state.isOpen);
    if (known) known.names.push(`“${name}”`);
    else moments.push({ at: state.until + AFTER_CHANGE_MS, names: [`“${name}”`] });
  }
  return moments;
}

/** What somebody does so that everything has come that waits for something. */
export function stepsFor(rules: readonly VisitorRules[]): readonly VisitStep[] {
  const seconds = Math.min(LONGEST_WAIT_S, Math.max(0, ...rules.map(({ afterSeconds = 0 }) => afterSeconds)));
  const percent = Math.max(0, ...rules.map(({ afterScroll = 0 }) => afterScroll));
  return [
    ...(seconds > 0 ? [{ do: 'wait', seconds } as const] : []),
    ...(percent > 0 ? [{ do: 'scroll', percent } as const] : []),
    ...(rules.some(({ onLeaving = false }) => onLeaving) ? [{ do: 'leave' } as const] : []),
  ];
}

function namesOf(snippets: readonly SnapshotSnippet[]): readonly string[] {
  return [...new Set(snippets.map(({ name }) => `“${name}”`))];
}
