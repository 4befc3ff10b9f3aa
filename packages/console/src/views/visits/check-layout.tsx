import { NavLink, Outlet } from 'react-router';
import { VISITS } from '../../texts/visits';
import { cn } from '../../ui/cn';

const TABS = [
  { to: '.', label: VISITS.tabCode },
  { to: 'browser', label: VISITS.tabBrowser },
  { to: 'why', label: VISITS.tabWhy },
] as const;

/** Is it live? The three ways to find out. */
export function CheckLayout() {
  return (
    <div className="space-y-4">
      <nav aria-label={VISITS.tabs} className="flex gap-1 overflow-x-auto border-b border-line">
        {TABS.map(({ to, label }) => (
          <NavLink
            key={to}
            to={to}
            end={to === '.'}
            className={({ isActive }) =>
              cn(
                '-mb-px border-b-2 border-transparent px-3 py-2 text-sm font-medium whitespace-nowrap text-muted hover:text-ink',
                isActive && 'border-primary text-primary',
              )
            }
          >
            {label}
          </NavLink>
        ))}
      </nav>
      <Outlet />
    </div>
  );
}
