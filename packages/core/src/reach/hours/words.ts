import { listWords } from '../pages/index.js';
import { dateOf, dayNumber, timeOf } from './days.js';
import { WEEKDAYS, type Hours, type Span, type Weekday } from './types.js';
import { zoneClock } from './zone-clock.js';
import { REACH_TEXTS } from '../../texts/reach.js';
import { say } from '../../texts/say.js';

export const WEEKDAY_NAMES: Readonly<Record<Weekday, string>> = REACH_TEXTS.weekdays;

/** "Mon". */
export function shortDay(day: Weekday): string {
  return REACH_TEXTS.shortDays[day];
}

/** "Mon–Fri 09:00–17:30, Sat 10:00–14:00, closed on 25 December, until 31 March 2027". */
export function hoursWords(hours: Hours): string {
  const { weekly, closed = [], exceptions = [], first, last } = hours;
  return [
    weekly ? weekWords(weekly) : '',
    closed.length > 0 ? say(REACH_TEXTS.closedList, { list: listWords(closed.map(yearlyWords)) }) : '',
    ...exceptions.map(({ date, spans }) =>
      spans.length === 0
        ? say(REACH_TEXTS.closedDate, { date: dateWords(date) })
        : `${dateWords(date)} ${spansWords(spans)}`,
    ),
    first === undefined ? '' : say(REACH_TEXTS.fromDate, { date: dateWords(first) }),
    last === undefined ? '' : say(REACH_TEXTS.untilDate, { date: dateWords(last) }),
  ]
    .filter(Boolean)
    .join(', ');
}

function weekWords(weekly: NonNullable<Hours['weekly']>): string {
  const groups: { days: Weekday[]; words: string }[] = [];
  for (const day of WEEKDAYS) {
    const words = spansWords(weekly[day] ?? []);
    if (words === '') continue;
    const last = groups.at(-1);
    const isNext = last?.words === words && WEEKDAYS.indexOf(last.days.at(-1)!) === WEEKDAYS.indexOf(day) - 1;
    if (isNext) last.days.push(day);
    else groups.push({ days: [day], words });
  }
  if (groups.length === 0) return REACH_TEXTS.noDayOfWeek;
  return groups.map(({ days, words }) => `${daysWords(days)} ${words}`).join(', ');
}

function daysWords(days: readonly Weekday[]): string {
  if (days.length === 7) return REACH_TEXTS.everyDay;
  return days.length > 2 ? `${shortDay(days[0]!)}–${shortDay(days.at(-1)!)}` : listWords(days.map(shortDay));
}

/** "09:00–12:00 and 13:00–17:30". */
export function spansWords(spans: readonly Span[]): string {
  return listWords(
    spans.map(({ from, to }) => (from === '00:00' && to === '24:00' ? REACH_TEXTS.allDay : `${from}–${to}`)),
  );
}

/** "31 March 2027". */
export function dateWords(date: string): string {
  return say('{day}', { day: { date } });
}

function yearlyWords(day: string): string {
  // A leap year has every day that there is.
  return say('{day}', { day: { date: `2000-${day}`, isYearly: true } });
}

/**
 * A moment on the clocks of a zone: "today 17:00", "Friday 09:00" within the next six days, otherwise with its date.
 *
 * @param now - what "today" is; without one the date is always told
 */
export function momentWords(moment: number, zone: string, now?: number): string {
  return say('{moment}', { moment: { at: moment, zone, now } });
}

/** The day that it is at the site, `2027-03-31`. */
export function dayAt(moment: number, zone: string): string {
  return dateOf(zoneClock(zone).at(moment).day);
}

/** What the clocks of a zone show at a moment, `2027-03-31T10:00`: the other way round than {@link momentOf}. */
export function localTimeAt(moment: number, zone: string): string {
  const { day, minutes } = zoneClock(zone).at(moment);
  return `${dateOf(day)}T${timeOf(minutes)}`;
}

/** The moment of a local date and time, `2027-03-31` or `2027-03-31T10:00`, in a zone. */
export function momentOf(local: string, zone: string): number {
  const [date, time = '00:00'] = local.split(/[T ]/);
  const [hour, minute] = time.split(':').map(Number);
  return zoneClock(zone).instant(dayNumber(date!), hour! * 60 + minute!);
}
