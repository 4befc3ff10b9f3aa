import { consentNames } from './consent.js';
import { deviceName, devicesWords } from './device.js';
import { hoursAt, momentWords, zoneClock, dateWords, type Hours } from './hours/index.js';
import type { PageLoad } from './page-load.js';
import {
  addressWords,
  isGroupReference,
  listWords,
  pageEntryWords,
  pageMatcher,
  withoutGroups,
  type PageRules,
} from './pages/index.js';
import type { Reach, SiteReach } from './reach.js';
import { REACH_TEXTS } from '../texts/reach.js';
import { say } from '../texts/say.js';

export type OutOfReach =
  'excluded' | 'not-included' | 'environment' | 'device' | 'hours' | 'consent' | 'visitor' | 'window';

/** One reason for which a reach does not hold a page load, in words. */
export interface ReachReason {
  readonly reason: OutOfReach;
  readonly message: string;
}

/** Every reason for which a reach does not hold a page load, pages first; none where it does. */
export function whyOutOfReach(reach: Reach, site: SiteReach, load: PageLoad): ReachReason[] {
  return [
    pageReason(reach.pages, site, load),
    environmentReason(reach, load),
    deviceReason(reach, load),
    hoursReason(reach.hours, site, load),
    consentReason(reach, site, load),
    visitorReason(reach, load),
    windowReason(reach, load),
  ].filter((reason) => reason !== undefined);
}

function pageReason(rules: PageRules, site: SiteReach, { page }: PageLoad): ReachReason | undefined {
  const groups = site.pageGroups ?? [];
  const match = pageMatcher(withoutGroups(rules, groups)).match(page);
  if (match.matches) return undefined;
  if (match.because === 'not-included') {
    const entries = rules.include.map((entry) => pageEntryWords(entry, groups));
    return {
      reason: 'not-included',
      message: say(REACH_TEXTS.addressNotAmong, { address: addressWords(page), list: listWords(entries) }),
    };
  }
  const entry = rules.exclude.find((candidate) => holds(candidate, site, match.pattern!));
  const name = entry !== undefined && isGroupReference(entry) ? ` of ${pageEntryWords(entry, groups)}` : '';
  return {
    reason: 'excluded',
    message: say(REACH_TEXTS.excludedPatternName, { pattern: match.pattern!, name }),
  };
}

function holds(entry: string, site: SiteReach, pattern: string): boolean {
  return withoutGroups({ include: [], exclude: [entry] }, site.pageGroups ?? []).exclude.includes(pattern);
}

function environmentReason({ environment }: Reach, load: PageLoad): ReachReason | undefined {
  if (environment === undefined || environment === load.environment) return undefined;
  return {
    reason: 'environment',
    message: say(REACH_TEXTS.runsOnlyEnvironment, { environment, asked: load.environment }),
  };
}

function deviceReason({ devices }: Reach, { device }: PageLoad): ReachReason | undefined {
  if (!devices || devices.includes(device)) return undefined;
  return {
    reason: 'device',
    message: say(REACH_TEXTS.onlyDevicesDevice, {
      devices: devicesWords(devices),
      device: deviceName(device),
    }),
  };
}

function hoursReason(
  hours: Hours | undefined,
  { timeZone }: SiteReach,
  { at }: PageLoad,
): ReachReason | undefined {
  if (!hours) return undefined;
  const { isOpen, until } = hoursAt(hours, zoneClock(timeZone), at);
  if (isOpen) return undefined;
  if (until !== undefined)
    return {
      reason: 'hours',
      message: say(REACH_TEXTS.closedOpensMoment, { moment: momentWords(until, timeZone, at) }),
    };
  return {
    reason: 'hours',
    message:
      hours.last === undefined
        ? REACH_TEXTS.closedHoursNever
        : say(REACH_TEXTS.overLastDay, { date: dateWords(hours.last) }),
  };
}

function consentReason({ consent = [] }: Reach, site: SiteReach, load: PageLoad): ReachReason | undefined {
  const missing = consent.filter((key) => !load.consent.includes(key));
  if (missing.length === 0) return undefined;
  return {
    reason: 'consent',
    message: say(REACH_TEXTS.waitsConsentList, { list: listWords(consentNames(missing, site.consent)) }),
  };
}

function visitorReason({ visitor }: Reach, load: PageLoad): ReachReason | undefined {
  if (visitor?.who === undefined || load.visitor === undefined || visitor.who === load.visitor)
    return undefined;
  return {
    reason: 'visitor',
    message: visitor.who === 'first' ? REACH_TEXTS.onlyFirstVisit : REACH_TEXTS.onlyVisitorsWho,
  };
}

function windowReason({ visitor }: Reach, { width }: PageLoad): ReachReason | undefined {
  if (!visitor || width === undefined) return undefined;
  const { minWidth = 0, maxWidth = Infinity } = visitor;
  if (width < minWidth)
    return { reason: 'window', message: say(REACH_TEXTS.windowWidthPixels, { width, minWidth }) };
  if (width > maxWidth)
    return { reason: 'window', message: say(REACH_TEXTS.windowWidthPixelsWide, { width, maxWidth }) };
  return undefined;
}
