import { Link } from 'react-router';

/** The view that somebody came from, above the title of the one that is open. */
export function WayBack({ to, children }: { to: string; children: string }) {
  return (
    <p className="text-sm">
      <Link to={to} className="text-muted hover:text-ink hover:underline">
        {children}
      </Link>
    </p>
  );
}
