import { WEEKDAYS, type Hours, type Span, type Weekday } from './types.js';

/** A date of the calendar as the number of days since 1970-01-01. */
export type DayNumber = number;

const DAY_MS = 86_400_000;

/** @param date - `2027-03-31` */
export function dayNumber(date: string): DayNumber {
  return Date.parse(`${date}T00:00:00Z`) / DAY_MS;
}

/** `2027-03-31` */
export function dateOf(day: DayNumber): string {
  return new Date(day * DAY_MS).toISOString().slice(0, 10);
}

/** The dates on which hours open that open on no weekday; undefined for hours that do, or that are open all day. */
export function onlyDates({ weekly, exceptions = [] }: Hours): string[] | undefined {
  if (!weekly || Object.values(weekly).some((spans) => spans.length > 0)) return undefined;
  return exceptions.flatMap(({ date, spans }) => (spans.length > 0 ? [date] : []));
}

export function weekdayOf(day: DayNumber): Weekday {
  // 1970-01-01 was a Thursday.
  return WEEKDAYS[(((day + 3) % 7) + 7) % 7]!;
}

/** Minutes since midnight. */
export function minutesOf(time: string): number {
  return Number(time.slice(0, 2)) * 60 + Number(time.slice(3));
}

/** `09:05` */
export function timeOf(minutes: number): string {
  return `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
}

export const WHOLE_DAY: Span = { from: '00:00', to: '24:00' };

/** Minutes from the midnight at which the day begins, over the next midnight where a span goes on over it. */
export function spanMinutes({ from, to }: Span): [start: number, end: number] {
  const start = minutesOf(from);
  const end = minutesOf(to);
  return [start, end <= start ? end + 24 * 60 : end];
}

/** What decides the hours of a day. */
export type DayRule = 'weekly' | 'exception' | 'closed' | 'before-first' | 'after-last';

/** The spans that begin on a day, and by which rule. */
export function spansOn(hours: Hours, day: DayNumber): { rule: DayRule; spans: readonly Span[] } {
  const date = dateOf(day);
  if (hours.first !== undefined && date < hours.first) return { rule: 'before-first', spans: [] };
  if (hours.last !== undefined && date > hours.last) return { rule: 'after-last', spans: [] };
  const exception = hours.exceptions?.find((entry) => entry.date === date);
  if (exception) return { rule: 'exception', spans: exception.spans };
  if (hours.closed?.includes(date.slice(5)) === true) return { rule: 'closed', spans: [] };
  return { rule: 'weekly', spans: hours.weekly ? (hours.weekly[weekdayOf(day)] ?? []) : [WHOLE_DAY] };
}
