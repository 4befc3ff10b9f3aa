import { ApiError } from '@pragmatica/contract';
import { CircleAlert } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { isGone } from '../api/failed';
import { Button } from './button';
import { ProblemHelp } from './problem-help';
import { COMMON } from '../texts/common';

/** Grey lines where content will be. */
export function Loading({ lines = 4, label = COMMON.loading }: { lines?: number; label?: string }) {
  return (
    <div role="status" aria-label={label} className="animate-pulse space-y-3 py-2">
      {Array.from({ length: lines }, (_, index) => (
        <div key={index} className="h-12 rounded-lg bg-line/50" />
      ))}
    </div>
  );
}

export function Failure({ error, onRetry }: { error: Error; onRetry?: () => void }) {
  const title = error instanceof ApiError ? error.problem.title : COMMON.serviceCouldNot;
  return (
    <div role="alert" className="flex gap-3 rounded-lg border border-danger/40 bg-danger-soft p-4">
      <CircleAlert className="mt-0.5 size-5 shrink-0 text-danger" aria-hidden />
      <div className="space-y-2">
        <p className="font-semibold">{title}</p>
        <p className="text-sm">
          {error.message} <ProblemHelp error={error} />
        </p>
        {isGone(error) ? (
          <Button asChild size="small">
            <Link to="/">{COMMON.sites}</Link>
          </Button>
        ) : (
          onRetry && (
            <Button size="small" onClick={onRetry}>
              {COMMON.tryAgain}
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
        title={COMMON.thereNoSuch}
        action={
          <Button asChild>
            <Link to="/">{COMMON.sites}</Link>
          </Button>
        }
      >
        {COMMON.addressLeadsNowhere}
      </Empty>
    </div>
  );
}
