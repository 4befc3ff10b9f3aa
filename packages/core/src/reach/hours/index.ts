export { hoursMeeting, hoursOpen, hoursOutside } from './algebra.js';
export { onlyDates } from './days.js';
export { hoursAt, type HoursState } from './at.js';
export { openIntervals } from './intervals.js';
export { HoursTextError, parseWeekly } from './parse.js';
export { hoursProblems, type HoursProblem } from './problems.js';
export { WEEKDAYS, type DayException, type Hours, type Interval, type Span, type Weekday } from './types.js';
export { calendarWeek, dayRuleWords, stateWords, type CalendarDay } from './week.js';
export {
  WEEKDAY_NAMES,
  dateWords,
  dayAt,
  hoursWords,
  localTimeAt,
  momentOf,
  momentWords,
  shortDay,
  spansWords,
} from './words.js';
export { unitedHours } from './united.js';
export { zoneClock, type ZoneClock } from './zone-clock.js';
