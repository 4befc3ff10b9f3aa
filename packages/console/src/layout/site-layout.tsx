import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { NavLink, Outlet, useLocation, useParams } from 'react-router';
import { hasFailed } from '../api/failed';
import { commentedQuery } from '../api/comments';
import { useLive } from '../api/live';
import { checklistQuery, findingsQuery, siteQuery } from '../api/queries';
import { cn } from '../ui/cn';
import { RightsContext } from '../ui/may';
import { Failure } from '../ui/states';
import { RightsNote } from './rights-note';
import { COMMON } from '../texts/common';
import { LiveContext } from './live-context';
import { PeopleHere } from './people-here';
import { SITE_SECTIONS } from './site-sections';

/** The key of the site in the address. */
export function useSiteKey(): string {
  return useParams()['site']!;
}

export function SiteLayout() {
  const key = useSiteKey();
  const site = useQuery(siteQuery(key));
  const counts = useQuery(findingsQuery(key)).data?.counts;
  const steps = useQuery(checklistQuery(key)).data;
  const commented = useQuery(commentedQuery(key)).data;
  const list = useRef<HTMLElement>(null);
  const { pathname } = useLocation();
  const place = placeOf(pathname.slice(`/sites/${key}/`.length));
  const [isEditing, setEditing] = useState(false);
  const live = useLive(site.data && key, { place, isEditing });
  const liveSite = useMemo(() => ({ ...live, setEditing }), [live]);
  // On a phone the list is wider than the screen: the view that is open is scrolled into sight, also when
  // numbers have come that make it wider.
  useEffect(() => {
    const current = list.current?.querySelector('[aria-current=page]');
    current?.scrollIntoView({ inline: 'center', block: 'nearest' });
  }, [pathname, counts, steps, commented]);
  const rights = site.data?.data.rights;
  const mayEdit = rights?.includes('edit') ?? true;
  const badges: Readonly<Record<string, number>> = {
    findings: counts ? counts.error + counts.warning : 0,
    comments: commented?.reduce((sum, { open }) => sum + open, 0) ?? 0,
    checklist: steps?.filter(({ tick }) => !tick).length ?? 0,
  };
  return (
    <div className="mx-auto flex w-full max-w-7xl flex-1 flex-col lg:flex-row">
      <nav
        ref={list}
        aria-label={COMMON.sectionsSite}
        className="flex gap-1 overflow-x-auto border-b border-line px-2 py-1.5 lg:sticky lg:top-13 lg:w-46 lg:shrink-0 lg:flex-col lg:self-start lg:border-0 lg:px-3 lg:py-6"
      >
        {SITE_SECTIONS.filter(({ to }) => mayEdit || to !== 'snippets/new').map(
          ({ to, label, icon: Icon }) => (
            <NavLink
              key={to}
              data-tour={to}
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
          ),
        )}
      </nav>
      <main className="min-w-0 flex-1 px-3 py-4 sm:px-5 lg:py-6">
        <RightsContext value={rights}>
          <LiveContext value={liveSite}>
            <PeopleHere site={key} place={place} />
            {rights && <RightsNote rights={rights} />}
            {site.error && (
              <div className="mb-4">
                <Failure error={site.error} onRetry={() => void site.refetch()} />
              </div>
            )}
            {!hasFailed(site) && <Outlet />}
          </LiveContext>
        </RightsContext>
      </main>
    </div>
  );
}

/** Where somebody is in a site, as it is told to others. */
function placeOf(path: string): string {
  return /^[a-z0-9/_-]{0,200}$/.test(path) ? path : '';
}
