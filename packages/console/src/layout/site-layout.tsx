import { useQuery } from '@tanstack/react-query';
import {
  Blocks,
  History,
  ListChecks,
  ListOrdered,
  PlusCircle,
  Radar,
  ScrollText,
  SearchCheck,
  Settings2,
  Stethoscope,
  Truck,
} from 'lucide-react';
import { useEffect, useRef } from 'react';
import { NavLink, Outlet, useLocation, useParams } from 'react-router';
import { checklistQuery, findingsQuery, siteQuery } from '../api/queries';
import { cn } from '../ui/cn';
import { RightsContext } from '../ui/may';
import { Failure } from '../ui/states';
import { RightsNote } from './rights-note';
import { COMMON } from '../texts/common';

const VIEWS = [
  { to: 'strip', label: COMMON.pageStrip, icon: ScrollText },
  { to: 'snippets', label: COMMON.snippets, icon: Blocks },
  { to: 'snippets/new', label: COMMON.addSnippet, icon: PlusCircle },
  { to: 'findings', label: COMMON.findings, icon: Stethoscope },
  { to: 'survey', label: COMMON.survey, icon: Radar },
  { to: 'checklist', label: COMMON.checklist, icon: ListChecks },
  { to: 'delivery', label: COMMON.delivery, icon: Truck },
  { to: 'releases', label: COMMON.releases, icon: History },
  { to: 'check', label: COMMON.checkLivePages, icon: SearchCheck },
  { to: 'activity', label: COMMON.activity, icon: ListOrdered },
  { to: 'settings', label: COMMON.settings, icon: Settings2 },
] as const;

/** The key of the site in the address. */
export function useSiteKey(): string {
  return useParams()['site']!;
}

export function SiteLayout() {
  const key = useSiteKey();
  const site = useQuery(siteQuery(key));
  const counts = useQuery(findingsQuery(key)).data?.counts;
  const steps = useQuery(checklistQuery(key)).data;
  const list = useRef<HTMLElement>(null);
  const { pathname } = useLocation();
  // On a phone the list is wider than the screen: the view that is open is scrolled into sight, also when
  // numbers have come that make it wider.
  useEffect(() => {
    const current = list.current?.querySelector('[aria-current=page]');
    current?.scrollIntoView({ inline: 'center', block: 'nearest' });
  }, [pathname, counts, steps]);
  const rights = site.data?.data.rights;
  const mayEdit = rights?.includes('edit') ?? true;
  const badges: Readonly<Record<string, number>> = {
    findings: counts ? counts.error + counts.warning : 0,
    checklist: steps?.filter(({ tick }) => !tick).length ?? 0,
  };
  return (
    <div className="mx-auto flex w-full max-w-7xl flex-1 flex-col lg:flex-row">
      <nav
        ref={list}
        aria-label={COMMON.sectionsSite}
        className="flex gap-1 overflow-x-auto border-b border-line px-2 py-1.5 lg:sticky lg:top-13 lg:w-46 lg:shrink-0 lg:flex-col lg:self-start lg:border-0 lg:px-3 lg:py-6"
      >
        {VIEWS.filter(({ to }) => mayEdit || to !== 'snippets/new').map(({ to, label, icon: Icon }) => (
          <NavLink
            key={to}
            to={to}
            end={to === 'snippets'}
            className={({ isActive }) =>
              cn(
                'flex items-center gap-2 rounded-md px-2.5 py-1.5 text-sm font-medium text-muted hover:text-ink max-lg:whitespace-nowrap',
                isActive && 'bg-primary-soft text-primary',
              )
            }
          >
            <Icon className="size-4 shrink-0" aria-hidden />
            {label}
            {(badges[to] ?? 0) > 0 && (
              <span className="rounded-full bg-signal-soft px-1.5 text-xs font-medium text-signal">
                {badges[to]}
              </span>
            )}
          </NavLink>
        ))}
      </nav>
      <main className="min-w-0 flex-1 px-3 py-4 sm:px-5 lg:py-6">
        <RightsContext value={rights}>
          {rights && <RightsNote rights={rights} />}
          {site.isError ? <Failure error={site.error} onRetry={() => void site.refetch()} /> : <Outlet />}
        </RightsContext>
      </main>
    </div>
  );
}
