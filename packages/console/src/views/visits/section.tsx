import type { ReactNode } from 'react';

/** One subject of what visits found. */
export function Section({ title, lead, children }: { title: string; lead?: string; children: ReactNode }) {
  return (
    <section className="rounded-xl border border-line bg-surface">
      <header className="border-b border-line px-4 py-2.5">
        <h2 className="text-base">{title}</h2>
        {lead !== undefined && <p className="text-[13px] text-muted">{lead}</p>}
      </header>
      <div className="p-4">{children}</div>
    </section>
  );
}
