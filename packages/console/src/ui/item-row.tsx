import type { LucideIcon } from 'lucide-react';
import type { ReactNode } from 'react';

interface ItemRowProps {
  readonly icon: LucideIcon;
  /** Its name, and what stands beside it. */
  readonly title: ReactNode;
  /** What else is said of it, line by line. */
  readonly children: ReactNode;
  /** What can be done about it. */
  readonly action?: ReactNode;
}

/** One of a list of things, each with a name, some facts and a button. */
export function ItemRow({ icon: Icon, title, children, action }: ItemRowProps) {
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 py-2">
      <Icon className="size-4 shrink-0 text-muted" aria-hidden />
      <div className="min-w-52 flex-1 [overflow-wrap:anywhere]">
        <p>{title}</p>
        <div className="text-[13px] text-muted">{children}</div>
      </div>
      {action}
    </li>
  );
}
