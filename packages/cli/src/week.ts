import type { endpoints } from '@pragmatica/contract';
import { dayRuleWords, shortDay, spansWords, type Weekday } from '@pragmatica/core';
import type { z } from 'zod';
import { colour, print } from './output.js';

type Calendar = z.infer<(typeof endpoints.showCalendar)['response']>;

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
  for (const day of days) {
    const { date, weekday, on } = day;
    const name = shortDay(weekday as Weekday);
    const strip = Array.from({ length: STEPS }, (_, step) => (isOn(on, step) ? '█' : '·')).join('');
    const hours = on.length === 0 ? 'closed' : spansWords(on);
    const rule = dayRuleWords(day);
    const why = rule === '' ? '' : colour.dim(`  (${rule})`);
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
