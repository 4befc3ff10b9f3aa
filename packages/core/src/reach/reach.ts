import { consentNames, type ConsentRules } from './consent.js';
import { devicesWords, type Device } from './device.js';
import { hoursWords, type Hours } from './hours/index.js';
import { listWords, pageRulesWords, type PageGroup, type PageRules } from './pages/index.js';
import { isLimited, visitorWords, type VisitorRules } from './visitor.js';
import { REACH_TEXTS } from '../texts/reach.js';
import { say } from '../texts/say.js';

export const ENVIRONMENT_NAMES = ['staging', 'live'] as const;
export type EnvironmentName = (typeof ENVIRONMENT_NAMES)[number];

/** What bounds a reach beside the pages; what is left out bounds nothing. */
export interface Limits {
  readonly environment?: EnvironmentName;
  /** Left out: all. */
  readonly devices?: readonly Device[];
  readonly hours?: Hours;
  /** Keys of the categories that a visitor must have agreed to, all of them. */
  readonly consent?: readonly string[];
  readonly visitor?: VisitorRules;
}

/** The page loads on which a snippet runs: pages × environment × device × hours × consent × visitor. */
export interface Reach extends Limits {
  readonly pages: PageRules;
}

/** What a site defines for the reaches of all its snippets. */
export interface SiteReach {
  readonly timeZone: string;
  readonly pageGroups?: readonly PageGroup[];
  readonly consent?: ConsentRules;
}

/** The limits without those that bound nothing; undefined where none is left. */
export function normalizeLimits(limits: Limits | undefined): Limits | undefined {
  if (!limits) return undefined;
  const { environment, devices, hours, consent, visitor } = limits;
  const normal: Limits = {
    ...(environment ? { environment } : {}),
    ...(devices && devices.length > 0 && devices.length < 3 ? { devices } : {}),
    ...(hours && Object.values(hours).some((value) => value !== undefined) ? { hours } : {}),
    ...(consent && consent.length > 0 ? { consent } : {}),
    ...(isLimited(visitor) ? { visitor } : {}),
  };
  return Object.keys(normal).length > 0 ? normal : undefined;
}

/** The limits one by one in words, in the order in which they are asked. */
export function limitsWords(limits: Limits, site: SiteReach): string[] {
  const { environment, devices, hours, consent, visitor } = limits;
  return [
    environment ? say(REACH_TEXTS.onlyEnvironment, { environment }) : '',
    devices ? say(REACH_TEXTS.onlyDevices, { devices: devicesWords(devices) }) : '',
    hours ? hoursWords(hours) : '',
    consent ? say(REACH_TEXTS.consentList, { list: listWords(consentNames(consent, site.consent)) }) : '',
    visitor && isLimited(visitor) ? visitorWords(visitor) : '',
  ].filter(Boolean);
}

/** A reach as a sentence: "on /booking/*, only on phones, Mon–Fri 09:00–17:00, with consent to Adverts". */
export function reachWords(reach: Reach, site: SiteReach): string {
  return [pageRulesWords(reach.pages, site.pageGroups), ...limitsWords(reach, site)].join(', ');
}
