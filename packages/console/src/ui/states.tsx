import { ApiError } from '@pragmatica/contract';
import { CircleAlert } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { Button } from './button';

/** Grey lines where content will be. */
export function Loading({ lines = 4, label = 'Loading' }: { lines?: number; label?: string }) {
  return (
    <div role="status" aria-label={label} className="animate-pulse space-y-3 py-2">
      {Array.from({ length: lines }, (_, index) => (
        <div key={index} className="h-12 rounded-lg bg-line/50" />
      ))}
    </div>
  );
}

export function Failure({ error, onRetry }: { error: Error; onRetry?: () => void }) {
  const title = error instanceof ApiError ? error.problem.title : 'The service could not be reached';
  // Asking again does not bring back what is not there.
  const isGone = error instanceof ApiError && error.status === 404;
  return (
    <div role="alert" className="flex gap-3 rounded-lg border border-danger/40 bg-danger-soft p-4">
      <CircleAlert className="mt-0.5 size-5 shrink-0 text-danger" aria-hidden />
      <div className="space-y-2">
        <p className="font-semibold">{title}</p>
        <p className="text-sm">{error.message}</p>
        {isGone ? (
          <Button asChild size="small">
            <Link to="/">To the sites</Link>
          </Button>
        ) : (
          onRetry && (
            <Button size="small" onClick={onRetry}>
              Try again
            </Button>
          )
        )}
      </div>
    </div>
  );
}

export function Empty({
  title,
  children,
  action,
}: {
  title: string;
  children: ReactNode;
  action?: ReactNode;
}) {
  return (
    <div className="rounded-lg border border-dashed border-line-strong p-8 text-center">
      <p className="font-semibold">{title}</p>
      <p className="mx-auto mt-1 max-w-md text-sm text-muted">{children}</p>
      {action && <div className="mt-4">{action}</div>}
    </div>
  );
}

export function NotFound() {
  return (
    <div className="mx-auto max-w-xl p-6">
      <Empty
        title="There is no such page"
        action={
          <Button asChild>
            <Link to="/">To the sites</Link>
          </Button>
        }
      >
        The address leads nowhere. Perhaps a site or a snippet was renamed.
      </Empty>
    </div>
  );
}
