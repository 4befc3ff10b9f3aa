import { Link } from 'react-router';

/** The room that one came from, above the title of the one that one is in. */
export function WayBack({ to, children }: { to: string; children: string }) {
  return (
    <p className="text-sm">
      <Link to={to} className="text-muted hover:text-ink hover:underline">
        {children}
      </Link>
    </p>
  );
}
