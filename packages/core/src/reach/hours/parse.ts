import { WEEKDAYS, type Span, type Weekday } from './types.js';
import { REACH_TEXTS } from '../../texts/reach.js';
import { say } from '../../texts/say.js';

/** Hours as they are typed that cannot be understood. */
export class HoursTextError extends Error {
  override name = 'HoursTextError';
}

const SPAN = /^(\d{1,2}(?::\d{2})?)[-–](\d{1,2}(?::\d{2})?)$/;
const DAYS = /^([a-z]{3})[a-z]*(?:[-–]([a-z]{3})[a-z]*)?$/;

/**
 * Weekly hours as people type them: "mon-fri 09:00-12:00 13:00-17:30, sat 10-14", "daily 22:00-02:00".
 *
 * @throws HoursTextError
 */
export function parseWeekly(text: string): Partial<Record<Weekday, Span[]>> {
  const weekly: Partial<Record<Weekday, Span[]>> = {};
  let days: Weekday[] = [];
  let isAfterSpan = true;
  for (const token of text
    .toLowerCase()
    .split(/[\s,;]+/)
    .filter(Boolean)) {
    const span = SPAN.exec(token);
    if (span) {
      if (days.length === 0) throw new HoursTextError(say(REACH_TEXTS.sayWhichDays, { token }));
      for (const day of days) (weekly[day] ??= []).push({ from: time(span[1]!), to: time(span[2]!) });
      isAfterSpan = true;
      continue;
    }
    if (isAfterSpan) days = [];
    isAfterSpan = false;
    days.push(...readDays(token));
  }
  if (Object.keys(weekly).length === 0 || !isAfterSpan) throw new HoursTextError(REACH_TEXTS.writeHoursLike);
  return weekly;
}

function time(text: string): string {
  const [hour, minute = '00'] = text.split(':');
  return `${hour!.padStart(2, '0')}:${minute}`;
}

function readDays(token: string): Weekday[] {
  if (token === 'daily') return [...WEEKDAYS];
  const [, first = '', last = first] = DAYS.exec(token) ?? [];
  const from = WEEKDAYS.indexOf(first as Weekday);
  const to = WEEKDAYS.indexOf(last as Weekday);
  if (from < 0 || to < 0) throw new HoursTextError(say(REACH_TEXTS.tokenNeitherDay, { token }));
  return Array.from({ length: ((to - from + 7) % 7) + 1 }, (_, index) => WEEKDAYS[(from + index) % 7]!);
}
