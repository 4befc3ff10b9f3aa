import type { ReactNode } from 'react';

interface ChipProps {
  isOn: boolean;
  onClick: () => void;
  children: ReactNode;
}

/** One of several things that can each be chosen. */
export function Chip({ isOn, onClick, children }: ChipProps) {
  return (
    <button
      type="button"
      aria-pressed={isOn}
      onClick={onClick}
      className="rounded-full border border-line-strong px-2.5 py-1 text-[13px] text-muted hover:border-primary aria-pressed:border-primary aria-pressed:bg-primary-soft aria-pressed:font-medium aria-pressed:text-primary"
    >
      {children}
    </button>
  );
}
