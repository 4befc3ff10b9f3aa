import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type ReactNode } from 'react';
import type { SurveyedPage } from '../../api/surveys';

interface VirtualPagesProps {
  readonly pages: readonly SurveyedPage[];
  readonly label: string;
  readonly rowHeight: number;
  readonly hasMore: boolean;
  readonly onMore: () => void;
  readonly children: (page: SurveyedPage) => ReactNode;
}

/** Rows before the end at which more are asked for. */
const AHEAD = 20;

/** A list of pages of which only those in sight are drawn, however many there are. */
export function VirtualPages({ pages, label, rowHeight, hasMore, onMore, children }: VirtualPagesProps) {
  const frame = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: pages.length,
    getScrollElement: () => frame.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const items = rows.getVirtualItems();
  const last = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (hasMore && last >= pages.length - AHEAD) onMore();
  }, [hasMore, last, onMore, pages.length]);
  return (
    <div
      ref={frame}
      role="group"
      aria-label={label}
      tabIndex={0}
      className="max-h-[65vh] overflow-auto rounded-xl border border-line bg-surface"
    >
      <ul className="relative" style={{ height: rows.getTotalSize() }}>
        {items.map(({ index, key, start, size }) => (
          <li
            key={key}
            className="absolute inset-x-0 border-b border-line"
            style={{ height: size, transform: `translateY(${start}px)` }}
          >
            {children(pages[index]!)}
          </li>
        ))}
      </ul>
    </div>
  );
}
