import { listWords } from '../pages/index.js';
import { dateOf, dayNumber } from './days.js';
import { WEEKDAYS, type Hours, type Span, type Weekday } from './types.js';
import { clockTimeWords } from '../../texts/clock-time.js';
import { DEFAULT_LOCALE } from '../../texts/locale.js';
import { zoneClock } from './zone-clock.js';
import { REACH_TEXTS } from '../../texts/reach.js';
import { say } from '../../texts/say.js';

export const WEEKDAY_NAMES: Readonly<Record<Weekday, string>> = {
  mon: REACH_TEXTS.monday,
  tue: REACH_TEXTS.tuesday,
  wed: REACH_TEXTS.wednesday,
  thu: REACH_TEXTS.thursday,
  fri: REACH_TEXTS.friday,
  sat: REACH_TEXTS.saturday,
  sun: REACH_TEXTS.sunday,
};

const MONTHS = 'January February March April May June July August September October November December'.split(
  ' ',
);

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
    first === undefined ? '' : `from ${dateWords(first)}`,
    last === undefined ? '' : `until ${dateWords(last)}`,
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
  if (groups.length === 0) return 'on no day of the week';
  return groups.map(({ days, words }) => `${daysWords(days)} ${words}`).join(', ');
}

function daysWords(days: readonly Weekday[]): string {
  const short = (day: Weekday): string => WEEKDAY_NAMES[day].slice(0, 3);
  if (days.length === 7) return REACH_TEXTS.everyDay;
  return days.length > 2 ? `${short(days[0]!)}–${short(days.at(-1)!)}` : days.map(short).join(' and ');
}

/** "09:00–12:00 and 13:00–17:30". */
export function spansWords(spans: readonly Span[]): string {
  return listWords(
    spans.map(({ from, to }) => (from === '00:00' && to === '24:00' ? REACH_TEXTS.allDay : `${from}–${to}`)),
  );
}

/** "31 March 2027". */
export function dateWords(date: string): string {
  return `${Number(date.slice(8))} ${MONTHS[Number(date.slice(5, 7)) - 1]!} ${date.slice(0, 4)}`;
}

function yearlyWords(day: string): string {
  return `${Number(day.slice(3))} ${MONTHS[Number(day.slice(0, 2)) - 1]!}`;
}

/**
 * A moment on the clocks of a zone: "today 17:00", "Friday 09:00" within the next six days, otherwise with its date.
 *
 * @param now - what "today" is; without one the date is always told
 */
export function momentWords(moment: number, zone: string, now?: number): string {
  return clockTimeWords({ at: moment, zone, now }, DEFAULT_LOCALE);
}

/** The day that it is at the site, `2027-03-31`. */
export function dayAt(moment: number, zone: string): string {
  return dateOf(zoneClock(zone).at(moment).day);
}

/** The moment of a local date and time, `2027-03-31` or `2027-03-31T10:00`, in a zone. */
export function momentOf(local: string, zone: string): number {
  const [date, time = '00:00'] = local.split(/[T ]/);
  const [hour, minute] = time.split(':').map(Number);
  return zoneClock(zone).instant(dayNumber(date!), hour! * 60 + minute!);
}
