import { Temporal } from 'temporal-polyfill';
import { memoizeByText } from '../../memoize/by-text.js';
import { dateOf, dayNumber, timeOf, type DayNumber } from './days.js';

const DAY_MS = 86_400_000;
const MINUTE_MS = 60_000;
/** In so many years every day of the year has been on every weekday. */
export const CALENDAR_YEARS = 28;

interface DayStart {
  readonly at: number;
  /** As long as most days are: its minutes can be counted from its start. */
  readonly isPlain: boolean;
}

/**
 * The clocks of a time zone (IANA database). A time that the clocks leave out in spring is the one as much later, one
 * that they show twice in autumn is the first (RFC 5545, 3.3.5).
 */
export class ZoneClock {
  readonly zone: string;
  readonly #starts = new Map<DayNumber, DayStart>();
  #changes: readonly DayNumber[] | undefined;

  constructor(zone: string) {
    this.zone = zone;
  }

  /** The moment at which a day's clocks have shown so many minutes; more than a day's are those of the next. */
  instant(day: DayNumber, minutes: number): number {
    if (minutes >= 24 * 60) return this.instant(day + 1, minutes - 24 * 60);
    const { at, isPlain } = this.#start(day);
    if (isPlain || minutes === 0) return at + minutes * MINUTE_MS;
    return Temporal.PlainDateTime.from(`${dateOf(day)}T${timeOf(minutes)}`).toZonedDateTime(this.zone)
      .epochMilliseconds;
  }

  /** Date and time on the clocks at a moment. */
  at(moment: number): { readonly day: DayNumber; readonly minutes: number } {
    const local = Temporal.Instant.fromEpochMilliseconds(moment).toZonedDateTimeISO(this.zone);
    return { day: dayNumber(local.toPlainDate().toString()), minutes: local.hour * 60 + local.minute };
  }

  /** Days of the next years on which the clocks are changed. */
  changes(from: DayNumber): readonly DayNumber[] {
    if (this.#changes?.[0] !== undefined && this.#changes[0] <= from) return this.#changes;
    const days: DayNumber[] = [];
    let at: Temporal.ZonedDateTime | null = Temporal.Instant.fromEpochMilliseconds(
      from * DAY_MS,
    ).toZonedDateTimeISO(this.zone);
    for (let count = 0; count < 2 * CALENDAR_YEARS; count++) {
      at = at.getTimeZoneTransition('next');
      if (!at) break;
      days.push(dayNumber(at.toPlainDate().toString()));
    }
    this.#changes = days.length > 0 ? [from, ...days] : [from];
    return this.#changes;
  }

  #start(day: DayNumber): DayStart {
    let start = this.#starts.get(day);
    if (!start) {
      const date = Temporal.PlainDate.from(dateOf(day));
      const at = date.toZonedDateTime(this.zone).epochMilliseconds;
      const next = date.add({ days: 1 }).toZonedDateTime(this.zone).epochMilliseconds;
      const begins = Temporal.Instant.fromEpochMilliseconds(at).toZonedDateTimeISO(this.zone);
      const isAtMidnight = begins.hour === 0 && begins.minute === 0;
      start = { at, isPlain: next - at === DAY_MS && isAtMidnight };
      this.#starts.set(day, start);
    }
    return start;
  }
}

/** The clock of a time zone; each is made once. */
export const zoneClock = memoizeByText(200, (zone) => new ZoneClock(zone));
