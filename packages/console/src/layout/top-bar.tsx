import type { MemberResource } from '@pragmatica/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  Archive,
  BookMarked,
  ChevronDown,
  CircleHelp,
  Compass,
  HeartPulse,
  History,
  LogOut,
  Moon,
  Sun,
  UserRound,
  UsersRound,
} from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState, useSyncExternalStore } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api } from '../api/client';
import { siteQuery } from '../api/queries';
import { allSitesQuery } from '../api/site-lists';
import { chooseTheme, currentTheme, onThemeChange } from '../theme';
import { Button } from '../ui/button';
import { PaletteButton } from '../views/palette/palette';
import { Mark } from './mark';
import { ACCOUNT } from '../texts/account';
import { ACTIVITY } from '../texts/activity';
import { COMMON } from '../texts/common';
import { BACKUPS } from '../texts/backups';
import { DOCTOR } from '../texts/doctor';
import { MEMBERS } from '../texts/members';
import { HELP } from '../texts/help';
import { TOUR } from '../texts/guided-tour';
import { say } from '../texts/say';
import { DEMO_SITE, goToStep } from '../views/tour/tour-state';

const menuStyle =
  'enter z-30 max-h-[75vh] min-w-56 overflow-y-auto rounded-lg border border-line bg-raised p-1.5 shadow-card';
const itemStyle =
  'flex w-full cursor-pointer items-center gap-2 rounded-md px-2.5 py-1.5 text-sm outline-none data-[highlighted]:bg-primary-soft';

export function TopBar({ member }: { member: MemberResource }) {
  return (
    <header className="sticky top-0 z-20 border-b border-line bg-surface">
      <div className="mx-auto flex h-13 max-w-7xl items-center gap-2 px-3 sm:px-5">
        <Link to="/" className="flex items-center gap-2 rounded-md font-semibold">
          <Mark className="size-6" />
          <span className="max-sm:sr-only">{COMMON.pragmatica}</span>
        </Link>
        <span className="text-line-strong" aria-hidden>
          /
        </span>
        <SiteSwitcher />
        <div className="ml-auto flex items-center gap-1">
          <PaletteButton member={member} />
          <Button asChild look="quiet" className="max-sm:px-2">
            <Link to="/recipes">
              <BookMarked className="size-4" aria-hidden />
              <span className="max-sm:sr-only">{COMMON.recipes}</span>
            </Link>
          </Button>
          <Button asChild look="quiet" className="max-sm:px-2">
            <Link to="/help" data-tour="help">
              <CircleHelp className="size-4" aria-hidden />
              <span className="max-sm:sr-only">{HELP.help}</span>
            </Link>
          </Button>
          <ThemeButton />
          <MemberMenu member={member} />
        </div>
      </div>
    </header>
  );
}

function SiteSwitcher() {
  const { site } = useParams();
  const [isOpen, setOpen] = useState(false);
  const sites = useQuery({ ...allSitesQuery, enabled: isOpen });
  const current = useQuery({ ...siteQuery(site ?? ''), enabled: site !== undefined }).data?.data;
  return (
    <DropdownMenu.Root open={isOpen} onOpenChange={setOpen}>
      <DropdownMenu.Trigger asChild>
        <Button look="quiet" className="min-w-0 text-ink">
          <span className="truncate">{site === undefined ? COMMON.allSites : (current?.name ?? site)}</span>
          <ChevronDown className="size-4 shrink-0" aria-hidden />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" className={menuStyle}>
          <DropdownMenu.Item asChild>
            <Link to="/" className={itemStyle}>
              {COMMON.allSites}
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          {sites.isPending && <p className="px-2.5 py-1.5 text-sm text-muted">{COMMON.loading}</p>}
          {sites.data?.map((entry) => (
            <DropdownMenu.Item key={entry.key} asChild>
              <Link to={`/sites/${entry.key}/strip`} className={itemStyle}>
                <span className="flex-1 truncate">{entry.name}</span>
                {entry.attention.length > 0 && (
                  <span className="rounded-full bg-signal-soft px-1.5 text-xs font-medium text-signal">
                    {entry.attention.length}
                  </span>
                )}
              </Link>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function ThemeButton() {
  const theme = useSyncExternalStore(onThemeChange, currentTheme);
  const next = theme === 'dark' ? 'light' : 'dark';
  return (
    <Button
      look="quiet"
      size="icon"
      aria-label={say(COMMON.switchColours, { next })}
      onClick={() => {
        chooseTheme(next);
      }}
    >
      {theme === 'dark' ? (
        <Sun className="size-4.5" aria-hidden />
      ) : (
        <Moon className="size-4.5" aria-hidden />
      )}
    </Button>
  );
}

function MemberMenu({ member }: { member: MemberResource }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const takeTour = async (): Promise<void> => {
    const sites = await client.ensureQueryData(allSitesQuery);
    const site = sites.find(({ key }) => key === DEMO_SITE) ?? sites[0];
    if (site) goToStep({ site: site.key, step: 0 });
    else void navigate('/help/tour');
  };
  const signOut = async (): Promise<void> => {
    await api.call('signOut', {});
    // Nothing that was shown stays in memory.
    window.location.assign('/');
  };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button look="quiet">
          {member.login}
          <ChevronDown className="size-4" aria-hidden />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className={menuStyle}>
          <DropdownMenu.Item asChild>
            <Link to="/account" className={itemStyle}>
              <UserRound className="size-4" aria-hidden /> {ACCOUNT.title}
            </Link>
          </DropdownMenu.Item>
          {member.role === 'own' && (
            <DropdownMenu.Item asChild>
              <Link to="/members" className={itemStyle}>
                <UsersRound className="size-4" aria-hidden /> {MEMBERS.title}
              </Link>
            </DropdownMenu.Item>
          )}
          {member.role === 'own' && (
            <DropdownMenu.Item asChild>
              <Link to="/activity" className={itemStyle}>
                <History className="size-4" aria-hidden /> {ACTIVITY.trail}
              </Link>
            </DropdownMenu.Item>
          )}
          {member.role === 'own' && (
            <DropdownMenu.Item asChild>
              <Link to="/backups" className={itemStyle}>
                <Archive className="size-4" aria-hidden /> {BACKUPS.title}
              </Link>
            </DropdownMenu.Item>
          )}
          {member.role === 'own' && (
            <DropdownMenu.Item asChild>
              <Link to="/health" className={itemStyle}>
                <HeartPulse className="size-4" aria-hidden /> {DOCTOR.title}
              </Link>
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item className={itemStyle} onSelect={() => void takeTour()}>
            <Compass className="size-4" aria-hidden /> {TOUR.again}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={itemStyle} onSelect={() => void signOut()}>
            <LogOut className="size-4" aria-hidden /> {COMMON.signOut}
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
