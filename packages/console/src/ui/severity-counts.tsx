import { cn } from './cn';
import { COMMON } from '../texts/common';
import { say } from '../texts/say';

interface SeverityCountsProps {
  readonly counts: { readonly error: number; readonly warning: number; readonly advice: number };
  readonly className?: string;
}

/** How many findings there are of each kind; nothing where there are none. */
export function SeverityCounts({ counts: { error, warning, advice }, className }: SeverityCountsProps) {
  if (error + warning + advice === 0) return null;
  return (
    <span className={cn('flex flex-wrap gap-1.5 text-xs font-medium', className)}>
      {error > 0 && (
        <span className="rounded-full bg-danger-soft px-2 py-0.5 text-danger">
          {say(COMMON.error, { error })}
        </span>
      )}
      {warning > 0 && (
        <span className="rounded-full bg-signal-soft px-2 py-0.5 text-signal">
          {say(COMMON.warning, { warning })}
        </span>
      )}
      {advice > 0 && (
        <span className="rounded-full bg-primary-soft px-2 py-0.5 text-primary">
          {say(COMMON.adviceThinkAbout, { advice })}
        </span>
      )}
    </span>
  );
}
