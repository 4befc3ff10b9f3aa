import type { PagePlan } from '@pragmatica/core';
import { Link } from 'react-router';
import { cn } from '../../ui/cn';
import { SnippetSwitch } from './snippet-switch';

/** What does not run on this page, each with its reason. */
export function LeftOutPanel({
  site,
  plan,
  isEditable,
  className,
}: {
  site: string;
  plan: PagePlan;
  isEditable: boolean;
  className?: string;
}) {
  return (
    <section
      aria-label="Not on this page"
      className={cn('rounded-xl border border-line bg-surface p-4', className)}
    >
      <h2>Not on this page</h2>
      {plan.leftOut.length === 0 && <p className="mt-1 text-sm text-muted">Every snippet runs here.</p>}
      <ul className="mt-2 divide-y divide-line">
        {plan.leftOut.map((entry) => (
          <li key={entry.snippet} className="flex items-start gap-3 py-2">
            <div className="min-w-0 flex-1">
              <Link to={`../snippets/${entry.snippet}`} className="text-sm font-medium hover:underline">
                {entry.name}
              </Link>
              <p className="text-[13px] text-muted">{entry.message}</p>
            </div>
            {isEditable && entry.reason === 'off' && (
              <SnippetSwitch site={site} snippet={entry.snippet} name={entry.name} isOn={false} />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
