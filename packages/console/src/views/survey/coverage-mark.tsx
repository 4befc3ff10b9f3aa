import { cn } from '../../ui/cn';
import type { CellState } from './coverage-state';

export const CELL_LOOKS: Readonly<Record<CellState, string>> = {
  all: 'bg-primary',
  some: 'bg-signal text-paper',
  missing: 'bg-danger text-paper',
  none: 'border border-line',
};

/** A cell of the picture. */
export function Mark({
  state,
  label,
  children,
}: {
  state: CellState;
  label: string;
  children?: string | undefined;
}) {
  return (
    <span
      role="img"
      aria-label={label}
      title={label}
      className={cn(
        'inline-flex h-5 min-w-5 items-center justify-center rounded px-1 text-[11px] font-medium tabular-nums',
        CELL_LOOKS[state],
      )}
    >
      {children}
    </span>
  );
}
