import type { MemberResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import {
  Archive,
  BookMarked,
  Blocks,
  CircleHelp,
  Globe,
  HeartPulse,
  History,
  House,
  Moon,
  PlusCircle,
  Rocket,
  SearchCheck,
  UserRound,
  UsersRound,
  type LucideIcon,
} from 'lucide-react';
import { siteQuery, snippetsQuery } from '../../api/queries';
import { allSitesQuery } from '../../api/site-lists';
import { SITE_SECTIONS } from '../../layout/site-sections';
import { ACCOUNT } from '../../texts/account';
import { ACTIVITY } from '../../texts/activity';
import { BACKUPS } from '../../texts/backups';
import { COMMON } from '../../texts/common';
import { DOCTOR } from '../../texts/doctor';
import { HELP } from '../../texts/help';
import { MEMBERS } from '../../texts/members';
import { PALETTE } from '../../texts/palette';
import { say } from '../../texts/say';
import { chooseTheme, currentTheme } from '../../theme';
import { HELP_PAGES } from '../help/pages';
import type { Findable } from './match';

/** Somewhere to go, or something to do. */
export interface PalettePlace extends Findable {
  readonly id: string;
  readonly icon: LucideIcon;
  /** What stands behind the name, such as that it is off. */
  readonly note?: string;
  /** Where it leads; left out for what is done at once. */
  readonly to?: string;
  readonly act?: () => void;
}

export interface PaletteGroup {
  readonly title: string;
  readonly places: readonly PalettePlace[];
}

/** Everything that can be reached, by group. @param site - key of the site that is shown */
export function usePlaces(
  member: MemberResource,
  site: string | undefined,
): { readonly groups: readonly PaletteGroup[]; readonly isPending: boolean } {
  const sites = useQuery(allSitesQuery);
  const snippets = useQuery({ ...snippetsQuery(site ?? ''), enabled: site !== undefined });
  const rights = useQuery({ ...siteQuery(site ?? ''), enabled: site !== undefined }).data?.data.rights ?? [];
  const ofSite: PaletteGroup[] =
    site === undefined
      ? []
      : [
          { title: PALETTE.siteGroup, places: sectionPlaces(site, rights.includes('edit')) },
          {
            title: PALETTE.snippetGroup,
            places: (snippets.data ?? []).map(({ key, name, state, provider, purpose }) => ({
              ...{ id: `snippet ${key}`, label: name, also: `${key} ${provider} ${purpose}`, icon: Blocks },
              to: `/sites/${site}/snippets/${key}`,
              ...(state === 'on' ? {} : { note: PALETTE[state] }),
            })),
          },
        ];
  const groups = [
    ...ofSite,
    { title: PALETTE.doGroup, places: actPlaces(site, rights) },
    {
      title: PALETTE.sitesGroup,
      places: [
        { id: 'sites', label: COMMON.allSites, icon: House, to: '/' },
        ...(sites.data ?? []).map(({ key, name }) => ({
          ...{ id: `site ${key}`, label: name, also: key, icon: Globe },
          to: `/sites/${key}/strip`,
        })),
      ],
    },
    { title: PALETTE.youGroup, places: ownPlaces(member) },
    {
      title: PALETTE.helpGroup,
      places: HELP_PAGES.map((page) => ({
        ...{ id: `help ${page}`, label: ABOUT[page] ?? page, also: page, icon: CircleHelp },
        to: `/help/${page}`,
      })),
    },
  ];
  return { groups, isPending: sites.isPending || snippets.isLoading };
}

const ABOUT: Readonly<Record<string, string>> = HELP.pages;

function sectionPlaces(site: string, mayEdit: boolean): PalettePlace[] {
  const at = `/sites/${site}`;
  return SITE_SECTIONS.filter(({ to }) => mayEdit || to !== 'snippets/new').flatMap(
    ({ to, label: section, icon, tabs = [] }) => [
      { id: `section ${to}`, label: section, icon, to: `${at}/${to}` },
      ...tabs
        .filter((tab) => tab.to !== '.')
        .map((tab) => ({
          id: `section ${to}/${tab.to}`,
          label: say(PALETTE.tab, { section, tab: tab.label }),
          icon,
          to: `${at}/${to}/${tab.to}`,
        })),
    ],
  );
}

function actPlaces(site: string | undefined, rights: readonly string[]): PalettePlace[] {
  const next = currentTheme() === 'dark' ? 'light' : 'dark';
  return [
    ...(site !== undefined && rights.includes('publish')
      ? [{ id: 'publish', label: PALETTE.publish, icon: Rocket, to: `/sites/${site}/strip?of=draft` }]
      : []),
    ...(site !== undefined && rights.includes('edit')
      ? [{ id: 'add', label: COMMON.addSnippet, icon: PlusCircle, to: `/sites/${site}/snippets/new` }]
      : []),
    ...(site === undefined
      ? []
      : [{ id: 'why', label: PALETTE.check, icon: SearchCheck, to: `/sites/${site}/check/why` }]),
    { id: 'theme', label: say(COMMON.switchColours, { next }), icon: Moon, act: () => chooseTheme(next) },
  ];
}

function ownPlaces({ role }: MemberResource): PalettePlace[] {
  return [
    { id: 'account', label: ACCOUNT.title, icon: UserRound, to: '/account' },
    { id: 'recipes', label: COMMON.recipes, icon: BookMarked, to: '/recipes' },
    ...(role === 'own'
      ? [
          { id: 'members', label: MEMBERS.title, icon: UsersRound, to: '/members' },
          { id: 'trail', label: ACTIVITY.trail, icon: History, to: '/activity' },
          { id: 'backups', label: BACKUPS.title, icon: Archive, to: '/backups' },
          { id: 'health', label: DOCTOR.title, icon: HeartPulse, to: '/health' },
        ]
      : []),
  ];
}
