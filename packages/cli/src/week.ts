import type { endpoints } from '@pragmatica/contract';
import { WEEKDAY_NAMES, spansWords, type Weekday } from '@pragmatica/core';
import type { z } from 'zod';
import { colour, print } from './output.js';

type Calendar = z.infer<(typeof endpoints.showCalendar)['response']>;

const RULES: Readonly<Record<Calendar['days'][number]['rule'], string>> = {
  weekly: '',
  exception: 'this day only',
  closed: 'closed every year',
  'before-first': 'before the first day',
  'after-last': 'after the last day',
};
/** Signs for a day, half an hour each. */
const STEPS = 48;

/** A week as lines of the hours that are on, half an hour to a sign. */
export function tellWeek({ days, message, timeZone }: Calendar, isThisWeek: boolean): void {
  const scale = [0, 6, 12, 18]
    .map((hour) =>
      String(hour)
        .padStart(2, '0')
        .padEnd(STEPS / 4),
    )
    .join('');
  print(colour.dim(`${' '.repeat(15)}${scale}`));
  for (const { date, weekday, rule, on } of days) {
    const name = WEEKDAY_NAMES[weekday as Weekday].slice(0, 3);
    const strip = Array.from({ length: STEPS }, (_, step) => (isOn(on, step) ? '█' : '·')).join('');
    const hours = on.length === 0 ? 'closed' : spansWords(on);
    const why = RULES[rule] === '' ? '' : colour.dim(`  (${RULES[rule]})`);
    print(`${name} ${date} ${strip}  ${hours}${why}`);
  }
  // Of another week, what is now says nothing.
  if (isThisWeek) print(`\n${message} ${colour.dim(`(${timeZone})`)}`);
}

function isOn(on: Calendar['days'][number]['on'], step: number): boolean {
  return on.some(({ from, to }) => minutes(from) < (step + 1) * 30 && minutes(to) > step * 30);
}

function minutes(time: string): number {
  return Number(time.slice(0, 2)) * 60 + Number(time.slice(3));
}
