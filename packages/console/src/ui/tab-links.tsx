import { NavLink } from 'react-router';
import { cn } from './cn';

interface TabLinksProps {
  readonly label: string;
  /** Where each leads, below the view that they stand in; "." is that view itself. */
  readonly tabs: readonly { readonly to: string; readonly label: string }[];
}

/** The sides of one subject, each a view of its own. */
export function TabLinks({ label: name, tabs }: TabLinksProps) {
  return (
    <nav aria-label={name} className="flex gap-4 overflow-x-auto border-b border-line">
      {tabs.map(({ to, label }) => (
        <NavLink
          key={to}
          to={to}
          end={to === '.'}
          className={({ isActive }) =>
            cn(
              '-mb-px border-b-2 border-transparent px-1 py-2 text-sm font-medium whitespace-nowrap text-muted hover:text-ink',
              isActive && 'border-primary text-primary',
            )
          }
        >
          {label}
        </NavLink>
      ))}
    </nav>
  );
}
