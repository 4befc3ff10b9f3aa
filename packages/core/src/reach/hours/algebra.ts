import { dateOf, dayNumber, type DayNumber } from './days.js';
import { firstCommon, firstOutside, intervalsOfDays } from './intervals.js';
import type { Hours, Interval } from './types.js';
import { CALENDAR_YEARS, type ZoneClock } from './zone-clock.js';

const ALWAYS: Hours = {};
/** Longer than a year, so that every day of it is met once, and both changes of the clocks. */
const A_YEAR = 380;

/** The first time from a moment on at which both are open; undefined when there never is one. */
export function hoursMeeting(
  a: Hours | undefined,
  b: Hours | undefined,
  clock: ZoneClock,
  from: number,
): Interval | undefined {
  return compare(a ?? ALWAYS, b ?? ALWAYS, clock, from, firstCommon);
}

/** The first time at which `inner` is open and `outer` is not. */
export function hoursOutside(
  inner: Hours | undefined,
  outer: Hours | undefined,
  clock: ZoneClock,
  from: number,
): Interval | undefined {
  if (!outer) return undefined;
  return compare(inner ?? ALWAYS, outer, clock, from, firstOutside);
}

/** The first time that it is open. */
export function hoursOpen(hours: Hours | undefined, clock: ZoneClock, from: number): Interval | undefined {
  return hoursMeeting(hours, undefined, clock, from);
}

/**
 * Hours repeat by weekday, by day of the year and with the changes of the clocks. Looked at are days on which every
 * combination of them comes up: a year from now and from each first day, and around each named day, and around each
 * day of the year that is closed, and each change of the clocks, in all years of a cycle of the calendar.
 */
function compare(
  a: Hours,
  b: Hours,
  clock: ZoneClock,
  from: number,
  find: (a: readonly Interval[], b: readonly Interval[]) => Interval | undefined,
): Interval | undefined {
  const today = clock.at(from).day;
  const days = telling(a, b, clock, today);
  // Each day is compared with all that its neighbours reach into it.
  const around = new Set<DayNumber>(days.flatMap((day) => [day - 1, day, day + 1]));
  const later = (intervals: readonly Interval[]): Interval[] =>
    intervals.flatMap(([start, end]): Interval[] => (end <= from ? [] : [[Math.max(start, from), end]]));
  const ascending = [...around].sort((x, y) => x - y);
  return find(later(intervalsOfDays(a, clock, days)), later(intervalsOfDays(b, clock, ascending)));
}

function telling(a: Hours, b: Hours, clock: ZoneClock, today: DayNumber): DayNumber[] {
  const days = new Set<DayNumber>();
  const add = (from: DayNumber, to: DayNumber): void => {
    for (let day = Math.max(from, today - 1); day <= to; day++) days.add(day);
  };
  add(today - 1, today + A_YEAR);
  for (const { first, last, exceptions = [], closed = [] } of [a, b]) {
    if (first !== undefined) add(dayNumber(first) - 1, dayNumber(first) + A_YEAR);
    if (last !== undefined) add(dayNumber(last) - A_YEAR, dayNumber(last) + 1);
    for (const { date } of exceptions) add(dayNumber(date) - 1, dayNumber(date) + 1);
    for (const yearly of closed) for (const day of everyYear(yearly, today)) add(day - 1, day + 1);
  }
  if (needsCycle(a) || needsCycle(b)) for (const day of clock.changes(today)) add(day - 1, day + 1);
  return [...days].sort((x, y) => x - y);
}

/** Days closed every year fall on other weekdays, and beside other changes of the clocks, from year to year. */
function needsCycle({ closed = [] }: Hours): boolean {
  return closed.length > 0;
}

function everyYear(yearly: string, today: DayNumber): DayNumber[] {
  const year = Number(dateOf(today).slice(0, 4));
  return Array.from({ length: CALENDAR_YEARS + 1 }, (_, index) => `${year + index}-${yearly}`)
    .map(dayNumber)
    .filter((day) => !Number.isNaN(day));
}
