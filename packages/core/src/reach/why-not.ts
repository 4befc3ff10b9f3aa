import { consentNames } from './consent.js';
import { devicesWords } from './device.js';
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
      message: `${addressWords(page)} is not among its pages: it runs only on ${listWords(entries)}.`,
    };
  }
  const entry = rules.exclude.find((candidate) => holds(candidate, site, match.pattern!));
  const name = entry !== undefined && isGroupReference(entry) ? ` of ${pageEntryWords(entry, groups)}` : '';
  return { reason: 'excluded', message: `Excluded by ${match.pattern!}${name}.` };
}

function holds(entry: string, site: SiteReach, pattern: string): boolean {
  return withoutGroups({ include: [], exclude: [entry] }, site.pageGroups ?? []).exclude.includes(pattern);
}

function environmentReason({ environment }: Reach, load: PageLoad): ReachReason | undefined {
  if (environment === undefined || environment === load.environment) return undefined;
  return {
    reason: 'environment',
    message: `It runs only on ${environment}, and this is ${load.environment}.`,
  };
}

function deviceReason({ devices }: Reach, { device }: PageLoad): ReachReason | undefined {
  if (!devices || devices.includes(device)) return undefined;
  return { reason: 'device', message: `It is only for ${devicesWords(devices)}, and this is a ${device}.` };
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
    return { reason: 'hours', message: `Closed: opens ${momentWords(until, timeZone, at)}.` };
  return {
    reason: 'hours',
    message:
      hours.last === undefined
        ? 'Closed, and its hours never open again.'
        : `Over: its last day was ${dateWords(hours.last)}.`,
  };
}

function consentReason({ consent = [] }: Reach, site: SiteReach, load: PageLoad): ReachReason | undefined {
  const missing = consent.filter((key) => !load.consent.includes(key));
  if (missing.length === 0) return undefined;
  return {
    reason: 'consent',
    message: `Waits for consent: ${listWords(consentNames(missing, site.consent))}.`,
  };
}

function visitorReason({ visitor }: Reach, load: PageLoad): ReachReason | undefined {
  if (visitor?.who === undefined || load.visitor === undefined || visitor.who === load.visitor)
    return undefined;
  return {
    reason: 'visitor',
    message:
      visitor.who === 'first'
        ? 'It is only for a first visit, and this visitor has been here before.'
        : 'It is only for visitors who have been here before, and this is a first visit.',
  };
}

function windowReason({ visitor }: Reach, { width }: PageLoad): ReachReason | undefined {
  if (!visitor || width === undefined) return undefined;
  const { minWidth = 0, maxWidth = Infinity } = visitor;
  if (width < minWidth)
    return { reason: 'window', message: `The window is ${width} pixels wide; it needs ${minWidth}.` };
  if (width > maxWidth)
    return { reason: 'window', message: `The window is ${width} pixels wide; it may have ${maxWidth}.` };
  return undefined;
}
