import { spanMinutes } from './days.js';
import { WEEKDAYS, type Hours, type Span } from './types.js';
import { REACH_TEXTS } from '../../texts/reach.js';
import { say } from '../../texts/say.js';

export interface HoursProblem {
  readonly path: readonly (string | number)[];
  readonly message: string;
}

const TIME = /^(?:[01]\d|2[0-3]):[0-5]\d$/;

/** What is wrong with hours, each at its place. */
export function hoursProblems(hours: Hours): HoursProblem[] {
  const { weekly = {}, closed = [], exceptions = [], first, last } = hours;
  return [
    ...WEEKDAYS.flatMap((day) => spanProblems(weekly[day] ?? [], ['weekly', day])),
    ...closed.flatMap((day, index) =>
      isDate(`2024-${day}`) ? [] : [{ path: ['closed', index], message: REACH_TEXTS.writeDayYear }],
    ),
    ...exceptions.flatMap(({ date, spans }, index) => [
      ...dateProblems(date, ['exceptions', index, 'date']),
      ...(exceptions.findIndex((other) => other.date === date) < index
        ? [{ path: ['exceptions', index, 'date'], message: say(REACH_TEXTS.dayDateThere, { date }) }]
        : []),
      ...spanProblems(spans, ['exceptions', index, 'spans']),
    ]),
    ...(first === undefined ? [] : dateProblems(first, ['first'])),
    ...(last === undefined ? [] : dateProblems(last, ['last'])),
    ...(first !== undefined && last !== undefined && first > last
      ? [{ path: ['last'], message: say(REACH_TEXTS.lastDayLast, { last, first }) }]
      : []),
  ];
}

function dateProblems(date: string, path: readonly (string | number)[]): HoursProblem[] {
  if (!isDate(date)) return [{ path, message: say(REACH_TEXTS.dateNoDay, { date }) }];
  if (date >= FIRST_DATE && date <= LAST_DATE) return [];
  return [
    { path, message: say(REACH_TEXTS.dateTooFar, { date, firstDate: FIRST_DATE, lastDate: LAST_DATE }) },
  ];
}

/** Clocks are worked out from here to here; beyond, time zones are anybody's guess. */
export const FIRST_DATE = '1990-01-01';
export const LAST_DATE = '2199-12-31';

function isDate(date: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(date)) return false;
  const parsed = new Date(`${date}T00:00:00Z`);
  return !Number.isNaN(parsed.getTime()) && parsed.toISOString().startsWith(date);
}

function spanProblems(spans: readonly Span[], path: readonly (string | number)[]): HoursProblem[] {
  const problems = spans.flatMap(({ from, to }, index): HoursProblem[] => {
    if (!TIME.test(from)) return [{ path: [...path, index, 'from'], message: timeMessage(from) }];
    if (!TIME.test(to) && to !== '24:00') return [{ path: [...path, index, 'to'], message: timeMessage(to) }];
    if (from !== to) return [];
    return [
      {
        path: [...path, index, 'to'],
        message: say(REACH_TEXTS.fromFromNo, { from, to }),
      },
    ];
  });
  if (problems.length > 0) return problems;
  const sorted = spans
    .map((span, index) => ({ span, index, minutes: spanMinutes(span) }))
    .sort((a, b) => a.minutes[0] - b.minutes[0]);
  return sorted.flatMap(({ span, index, minutes }, at): HoursProblem[] => {
    const before = sorted[at - 1];
    if (!before || before.minutes[1] <= minutes[0]) return [];
    return [
      {
        path: [...path, index],
        message: say(REACH_TEXTS.spanOverlapsSpan, { span: spanText(span), other: spanText(before.span) }),
      },
    ];
  });
}

function timeMessage(time: string): string {
  return say(REACH_TEXTS.timeNoTime, { time });
}

function spanText({ from, to }: Span): string {
  return `${from}–${to}`;
}
