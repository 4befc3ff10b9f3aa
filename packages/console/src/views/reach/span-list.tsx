import type { Span } from '@pragmatica/core';
import { Plus, X } from 'lucide-react';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';
import { REACH } from '../../texts/reach';
import { say } from '../../texts/say';

interface SpanListProps {
  /** What the times are of, for those who cannot see where they stand. */
  label: string;
  spans: readonly Span[];
  onChange: (spans: Span[]) => void;
}

/** As text: every browser shows the field of its own kind another way, and most of them too wide. */
const timeField = {
  inputMode: 'numeric',
  required: true,
  maxLength: 5,
  pattern: '([01][0-9]|2[0-3]):[0-5][0-9]|24:00',
  title: REACH.timeDayLike,
  className: cn(inputStyle, 'h-8 w-16 px-2 py-1 text-center tabular-nums'),
} as const;

/** The times of one day, from and to, as many as there are. */
export function SpanList({ label, spans, onChange }: SpanListProps) {
  const set = (index: number, change: Partial<Span>): void =>
    onChange(spans.map((span, i) => (i === index ? { ...span, ...change } : span)));
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
      {spans.length === 0 && <span className="text-sm text-muted">{REACH.closed}</span>}
      {spans.map((span, index) => (
        <span key={index} className="flex items-center gap-1">
          <input
            {...timeField}
            aria-label={say(REACH.spanFrom, { label })}
            value={span.from}
            onChange={(event) => set(index, { from: event.target.value })}
          />
          <span aria-hidden>–</span>
          <input
            {...timeField}
            aria-label={say(REACH.spanTo, { label })}
            value={span.to}
            onChange={(event) => set(index, { to: event.target.value })}
          />
          <Button
            look="quiet"
            size="small"
            aria-label={say(REACH.takeLabelFrom, { label, from: span.from, to: span.to })}
            onClick={() => onChange(spans.filter((_, i) => i !== index))}
          >
            <X className="size-3.5" aria-hidden />
          </Button>
        </span>
      ))}
      <Button
        look="quiet"
        size="small"
        aria-label={say(REACH.addHoursLabel, { label })}
        onClick={() => onChange([...spans, nextSpan(spans.at(-1))])}
      >
        <Plus className="size-3.5" aria-hidden /> {REACH.addHours}
      </Button>
    </div>
  );
}

function nextSpan(last: Span | undefined): Span {
  return last && last.to < '18:00' ? { from: '18:00', to: '20:00' } : { from: '09:00', to: '17:00' };
}
