import { dateOf, spansOn, timeOf, weekdayOf, type DayNumber, type DayRule } from './days.js';
import { openIntervals } from './intervals.js';
import type { Hours, Span, Weekday } from './types.js';
import type { ZoneClock } from './zone-clock.js';

/** One day of a calendar strip. */
export interface CalendarDay {
  readonly date: string;
  readonly weekday: Weekday;
  /** What decides this day's hours. */
  readonly rule: DayRule;
  /** When it is on within this day, by the clock, what goes on from the day before included. */
  readonly on: readonly Span[];
}

/** The week that holds a moment, from Monday to Sunday, hour by hour. */
export function calendarWeek(hours: Hours | undefined, clock: ZoneClock, moment: number): CalendarDay[] {
  const today = clock.at(moment).day;
  const monday = today - ((((today + 3) % 7) + 7) % 7);
  return Array.from({ length: 7 }, (_, index) => calendarDay(hours ?? {}, clock, monday + index));
}

function calendarDay(hours: Hours, clock: ZoneClock, day: DayNumber): CalendarDay {
  const start = clock.instant(day, 0);
  const end = clock.instant(day + 1, 0);
  return {
    date: dateOf(day),
    weekday: weekdayOf(day),
    rule: spansOn(hours, day).rule,
    on: openIntervals(hours, clock, start, end).map(([from, to]) => ({
      from: from <= start ? '00:00' : timeOf(clock.at(from).minutes),
      to: to >= end ? '24:00' : timeOf(clock.at(to).minutes),
    })),
  };
}
