/** How many copies are kept: the last one of each of so many days, weeks and months that have one. */
export interface KeepRule {
  readonly days: number;
  readonly weeks: number;
  readonly months: number;
}

const DAY_MS = 86_400_000;

/**
 * Which copies are kept. Days, weeks (ISO 8601, from Monday) and months are those on the clocks of a zone, and only those that have
 * a copy count: after a month without any, none of the old ones goes. The newest one always stays.
 *
 * @param moments - when each was made, in any order
 * @returns the places of those that stay
 */
export function keptCopies(moments: readonly Date[], rule: KeepRule, zone: string): ReadonlySet<number> {
  const dayOf = localDay(zone);
  const newestFirst = moments
    .map((moment, place) => ({ place, at: moment.getTime(), day: dayOf(moment) }))
    .sort((a, b) => b.at - a.at);
  const kept = new Set<number>();
  if (newestFirst[0]) kept.add(newestFirst[0].place);
  for (const [most, spanOf] of [
    [rule.days, (day: number) => day],
    // Day 0 was a Thursday.
    [rule.weeks, (day: number) => Math.floor((day + 3) / 7)],
    [rule.months, monthOf],
  ] as const) {
    const seen = new Set<number>();
    for (const { place, day } of newestFirst) {
      const span = spanOf(day);
      if (seen.has(span)) continue;
      if (seen.size === most) break;
      seen.add(span);
      kept.add(place);
    }
  }
  return kept;
}

/** The day on the clocks of a zone, counted from 1970-01-01. */
function localDay(zone: string): (moment: Date) => number {
  const format = new Intl.DateTimeFormat('en-CA', {
    timeZone: zone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
  });
  return (moment) => Math.floor(Date.parse(`${format.format(moment)}T00:00:00Z`) / DAY_MS);
}

function monthOf(day: number): number {
  const date = new Date(day * DAY_MS);
  return date.getUTCFullYear() * 12 + date.getUTCMonth();
}
