import { spanMinutes, spansOn, type DayNumber } from './days.js';
import type { Hours, Interval } from './types.js';
import type { ZoneClock } from './zone-clock.js';

/** When spans that begin on these days are open, in order, joined where they touch. */
export function intervalsOfDays(hours: Hours, clock: ZoneClock, days: Iterable<DayNumber>): Interval[] {
  const intervals: Interval[] = [];
  for (const day of days)
    for (const span of spansOn(hours, day).spans) {
      const [from, to] = spanMinutes(span);
      const start = clock.instant(day, from);
      const end = clock.instant(day, to);
      if (end > start) intervals.push([start, end]);
    }
  return joined(intervals);
}

/** When it is open between two moments; intervals that reach beyond them are not cut. */
export function openIntervals(hours: Hours, clock: ZoneClock, from: number, to: number): Interval[] {
  // What began the day before may still go on.
  const first = clock.at(from).day - 1;
  const last = clock.at(to).day;
  const days = Array.from({ length: last - first + 1 }, (_, index) => first + index);
  return intervalsOfDays(hours, clock, days).filter(([start, end]) => end > from && start < to);
}

export function joined(intervals: readonly Interval[]): Interval[] {
  const result: [number, number][] = [];
  for (const [start, end] of [...intervals].sort((a, b) => a[0] - b[0])) {
    const last = result.at(-1);
    if (last && start <= last[1]) last[1] = Math.max(last[1], end);
    else result.push([start, end]);
  }
  return result;
}

/** The first piece of time that both hold. */
export function firstCommon(a: readonly Interval[], b: readonly Interval[]): Interval | undefined {
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    const start = Math.max(a[i]![0], b[j]![0]);
    const end = Math.min(a[i]![1], b[j]![1]);
    if (start < end) return [start, end];
    if (a[i]![1] < b[j]![1]) i++;
    else j++;
  }
  return undefined;
}

/** The first piece of time that the first holds and the second does not. */
export function firstOutside(a: readonly Interval[], b: readonly Interval[]): Interval | undefined {
  let j = 0;
  for (const [start, end] of a) {
    while (j < b.length && b[j]![1] <= start) j++;
    const over = b[j];
    if (!over || over[0] >= end) return [start, end];
    if (over[0] > start) return [start, over[0]];
    if (over[1] < end) return [over[1], Math.min(end, b[j + 1]?.[0] ?? end)];
  }
  return undefined;
}
