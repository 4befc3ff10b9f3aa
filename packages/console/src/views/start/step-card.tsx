import type { ReactNode } from 'react';

interface StepCardProps {
  readonly title: string;
  readonly text: string;
  /** Where it is done. */
  readonly action: ReactNode;
}

/** What a step is about, and the way to it. */
export function StepCard({ title, text, action }: StepCardProps) {
  return (
    <section
      aria-label={title}
      className="flex flex-wrap items-center gap-x-4 gap-y-3 rounded-xl border border-line bg-surface p-4 text-sm sm:px-5"
    >
      <div className="min-w-60 flex-1">
        <h2>{title}</h2>
        <p className="text-muted">{text}</p>
      </div>
      {action}
    </section>
  );
}
