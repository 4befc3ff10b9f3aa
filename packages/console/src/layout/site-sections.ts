import {
  Blocks,
  History,
  ListChecks,
  ListOrdered,
  MessageSquare,
  PlusCircle,
  Radar,
  ScrollText,
  SearchCheck,
  Settings2,
  Stethoscope,
  Truck,
  type LucideIcon,
} from 'lucide-react';
import { COMMENTS } from '../texts/comments';
import { COMMON } from '../texts/common';
import { MEMBERS } from '../texts/members';
import { SETTINGS } from '../texts/settings';
import { SURVEY } from '../texts/survey';
import { VISITS } from '../texts/visits';
import { WATCH } from '../texts/watch';
import { WEIGHT } from '../texts/weight';

/** A side of a section, below it; "." is the section itself. */
export interface SectionTab {
  readonly to: string;
  readonly label: string;
}

export const SURVEY_TABS: readonly SectionTab[] = [
  { to: '.', label: SURVEY.tabSightings },
  { to: 'coverage', label: SURVEY.tabCoverage },
  { to: 'pages', label: SURVEY.tabPages },
  { to: 'sides', label: SURVEY.tabSides },
  { to: 'history', label: SURVEY.tabHistory },
];

export const CHECK_TABS: readonly SectionTab[] = [
  { to: '.', label: VISITS.tabCode },
  { to: 'browser', label: VISITS.tabBrowser },
  { to: 'why', label: VISITS.tabWhy },
  { to: 'weight', label: WEIGHT.tab },
  { to: 'watch', label: WATCH.tab },
];

export const SETTINGS_TABS: readonly SectionTab[] = [
  { to: '.', label: SETTINGS.tabSite },
  { to: 'hosts', label: SETTINGS.tabHosts },
  { to: 'fields', label: SETTINGS.fields },
  { to: 'pages', label: SETTINGS.pageGroups },
  { to: 'consent', label: SETTINGS.consent },
  { to: 'people', label: MEMBERS.people },
  { to: 'files', label: SETTINGS.tabFiles },
];

interface SiteSection {
  /** Below the site. */
  readonly to: string;
  readonly label: string;
  readonly icon: LucideIcon;
  readonly tabs?: readonly SectionTab[];
}

/** The sections of a site, in the order in which they are shown. One more is one more line. */
export const SITE_SECTIONS: readonly SiteSection[] = [
  { to: 'strip', label: COMMON.pageStrip, icon: ScrollText },
  { to: 'snippets', label: COMMON.snippets, icon: Blocks },
  { to: 'snippets/new', label: COMMON.addSnippet, icon: PlusCircle },
  { to: 'findings', label: COMMON.findings, icon: Stethoscope },
  { to: 'comments', label: COMMENTS.title, icon: MessageSquare },
  { to: 'survey', label: COMMON.survey, icon: Radar, tabs: SURVEY_TABS },
  { to: 'checklist', label: COMMON.checklist, icon: ListChecks },
  { to: 'delivery', label: COMMON.delivery, icon: Truck },
  { to: 'releases', label: COMMON.releases, icon: History },
  { to: 'check', label: COMMON.checkLivePages, icon: SearchCheck, tabs: CHECK_TABS },
  { to: 'activity', label: COMMON.activity, icon: ListOrdered },
  { to: 'settings', label: COMMON.settings, icon: Settings2, tabs: SETTINGS_TABS },
];

/** What the section is called that an address below a site leads to. */
export function sectionName(place: string): string {
  const found =
    SITE_SECTIONS.find(({ to }) => to === place) ??
    SITE_SECTIONS.find(({ to }) => place.startsWith(`${to}/`)) ??
    SITE_SECTIONS[0]!;
  return found.label;
}
