import isDeepEqual from 'fast-deep-equal';
import { spanMinutes, timeOf } from './days.js';
import { WEEKDAYS, type Hours, type Span } from './types.js';

const DAY_MINUTES = 24 * 60;

/**
 * Open whenever either is open. Undefined where no hours of a week say that: where single days, closed days or the first and last
 * day differ, or one is open at all hours.
 */
export function unitedHours(a: Hours, b: Hours): Hours | undefined {
  const { weekly: one, ...rest } = a;
  const { weekly: other, ...restOfOther } = b;
  if (!one || !other || !isDeepEqual(rest, restOfOther)) return undefined;
  const weekly: Partial<Record<(typeof WEEKDAYS)[number], readonly Span[]>> = {};
  for (const day of WEEKDAYS) {
    const spans = unitedSpans([...(one[day] ?? []), ...(other[day] ?? [])]);
    if (!spans) return undefined;
    if (spans.length > 0) weekly[day] = spans;
  }
  return { ...rest, weekly };
}

/** Spans of one day without overlap; undefined where one would be longer than a day. */
function unitedSpans(spans: readonly Span[]): Span[] | undefined {
  const united: [start: number, end: number][] = [];
  for (const [start, end] of spans.map(spanMinutes).sort((a, b) => a[0] - b[0])) {
    const last = united.at(-1);
    if (last && start <= last[1]) last[1] = Math.max(last[1], end);
    else united.push([start, end]);
  }
  if (united.some(([start, end]) => end - start > DAY_MINUTES)) return undefined;
  return united.map(([start, end]) => ({
    from: timeOf(start),
    to: timeOf(end > DAY_MINUTES ? end - DAY_MINUTES : end),
  }));
}
