import type { ReactNode } from 'react';
import { cn } from './cn';

interface ChipProps {
  readonly isOn: boolean;
  readonly onClick: () => void;
  readonly count?: number;
  readonly className?: string;
  readonly children: ReactNode;
}

/** One of several things that can be chosen, with how many there are of it. */
export function Chip({ isOn, onClick, count, className, children }: ChipProps) {
  return (
    <button
      type="button"
      aria-pressed={isOn}
      onClick={onClick}
      className={cn(
        'flex items-center gap-1 rounded-full border border-line-strong px-2.5 py-1 text-[13px] text-muted hover:border-primary aria-pressed:border-primary aria-pressed:bg-primary-soft aria-pressed:text-primary',
        className,
      )}
    >
      {children}
      {count !== undefined && <span className="tabular-nums">{count}</span>}
    </button>
  );
}
