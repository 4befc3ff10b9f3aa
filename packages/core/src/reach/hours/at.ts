import { dayNumber, spansOn, type DayNumber } from './days.js';
import { intervalsOfDays } from './intervals.js';
import type { Hours, Interval } from './types.js';
import type { ZoneClock } from './zone-clock.js';

/** Whether it is open at a moment, and when that changes. */
export interface HoursState {
  readonly isOpen: boolean;
  /** Milliseconds since 1970; undefined where it stays so, as far as can be seen. */
  readonly until: number | undefined;
}

/** So far ahead the next change is looked for, from now and from each day that the hours name. */
const LOOK_AHEAD_DAYS = 800;
/** Most changes come within days; only where none does more are looked at. */
const FIRST_LOOK_DAYS = 9;

/** The state at a moment and the next change. @param now - milliseconds since 1970 */
export function hoursAt(hours: Hours | undefined, clock: ZoneClock, now: number): HoursState {
  if (!hours) return { isOpen: true, until: undefined };
  const today = clock.at(now).day;
  for (const ahead of [FIRST_LOOK_DAYS, LOOK_AHEAD_DAYS]) {
    const days = daysToLookAt(hours, today, ahead);
    const state = stateAmong(intervalsOfDays(hours, clock, days), now);
    // Where the last day looked at is open the change may come later.
    const limit = clock.instant(today + ahead, 0);
    if (state.until !== undefined && (state.until < limit || ahead === LOOK_AHEAD_DAYS))
      return state.isOpen && state.until >= limit && isOpenOn(hours, today + ahead)
        ? { isOpen: true, until: undefined }
        : state;
  }
  return { isOpen: false, until: undefined };
}

function isOpenOn(hours: Hours, day: DayNumber): boolean {
  return spansOn(hours, day).spans.length > 0;
}

function stateAmong(intervals: readonly Interval[], now: number): HoursState {
  const next = intervals.find(([, end]) => end > now);
  if (!next) return { isOpen: false, until: undefined };
  return next[0] <= now ? { isOpen: true, until: next[1] } : { isOpen: false, until: next[0] };
}

/** The next days, and those around the days that the hours name. */
function daysToLookAt(hours: Hours, today: DayNumber, ahead: number): DayNumber[] {
  const days = new Set<DayNumber>();
  const add = (from: DayNumber, to: DayNumber): void => {
    for (let day = from; day <= to; day++) days.add(day);
  };
  add(today - 1, today + ahead);
  if (ahead === LOOK_AHEAD_DAYS) {
    if (hours.first !== undefined) add(dayNumber(hours.first), dayNumber(hours.first) + ahead);
    for (const { date } of hours.exceptions ?? []) add(dayNumber(date) - 1, dayNumber(date) + 1);
  }
  return [...days].filter((day) => day >= today - 1).sort((a, b) => a - b);
}
