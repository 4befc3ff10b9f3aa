import type { ReactNode } from 'react';

interface SectionProps {
  readonly title: string;
  readonly text?: string;
  readonly children: ReactNode;
}

/** A part of the page, with its title and what it is about. */
export function Section({ title, text, children }: SectionProps) {
  return (
    <section
      aria-label={title}
      className="space-y-3 rounded-xl border border-line bg-surface p-4 text-sm sm:p-5"
    >
      <div>
        <h2>{title}</h2>
        {text !== undefined && <p className="text-muted">{text}</p>}
      </div>
      {children}
    </section>
  );
}
