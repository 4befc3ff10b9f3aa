import {
  shortDay,
  calendarWeek,
  dayRuleWords,
  spansWords,
  stateWords,
  zoneClock,
  type Hours,
} from '@pragmatica/core';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../../ui/button';
import { REACH } from '../../texts/reach';

const WEEK_MS = 7 * 86_400_000;

/** A week's hours as a picture: one bar for each day, filled where it is on. */
export function WeekStrip({ hours, timeZone }: { hours: Hours | undefined; timeZone: string }) {
  const [weeks, setWeeks] = useState(0);
  const [now] = useState(() => Date.now());
  const clock = zoneClock(timeZone);
  const days = calendarWeek(hours, clock, now + weeks * WEEK_MS);
  const today = clock.at(now);
  const isThisWeek = weeks === 0;
  return (
    <figure className="space-y-2" aria-label={REACH.weekSHours}>
      <div className="flex items-center gap-1">
        <p className="text-sm">
          {stateWords(hours, timeZone, now)} <span className="text-muted">({timeZone})</span>
        </p>
        <Button
          look="quiet"
          size="small"
          className="ml-auto"
          aria-label={REACH.weekBefore}
          onClick={() => setWeeks(weeks - 1)}
        >
          <ChevronLeft className="size-4" aria-hidden />
        </Button>
        <Button look="quiet" size="small" aria-label={REACH.weekAfter} onClick={() => setWeeks(weeks + 1)}>
          <ChevronRight className="size-4" aria-hidden />
        </Button>
      </div>
      <ul className="space-y-1">
        {days.map((day, index) => {
          const { date, weekday, on } = day;
          const rule = dayRuleWords(day);
          const isToday = isThisWeek && index === (today.day + 3) % 7;
          return (
            <li
              key={date}
              className="grid grid-cols-[2.2rem_minmax(0,1fr)] items-center gap-x-2 text-xs sm:grid-cols-[5.5rem_minmax(0,1fr)_9rem]"
            >
              <span className={isToday ? 'font-semibold' : 'text-muted'} title={date}>
                {shortDay(weekday)} <span className="max-sm:hidden">{date.slice(5)}</span>
              </span>
              <span className="relative h-4 overflow-hidden rounded bg-line/60" aria-hidden>
                {on.map(({ from, to }) => (
                  <span
                    key={from}
                    className="absolute inset-y-0 bg-good"
                    style={{ left: `${share(from)}%`, width: `${share(to) - share(from)}%` }}
                  />
                ))}
                {[6, 12, 18].map((hour) => (
                  <span
                    key={hour}
                    className="absolute inset-y-0 w-px bg-surface/60"
                    style={{ left: `${(hour / 24) * 100}%` }}
                  />
                ))}
                {isToday && (
                  <span
                    className="absolute inset-y-0 w-0.5 bg-signal"
                    style={{ left: `${(today.minutes / 1440) * 100}%` }}
                  />
                )}
              </span>
              <span className="text-muted max-sm:col-start-2">
                {on.length === 0 ? 'closed' : spansWords(on)}
                {rule === '' ? '' : ` (${rule})`}
              </span>
            </li>
          );
        })}
      </ul>
    </figure>
  );
}

/** How far into the day a time is, in percent. */
function share(time: string): number {
  return ((Number(time.slice(0, 2)) * 60 + Number(time.slice(3))) / 1440) * 100;
}
