import { Temporal } from 'temporal-polyfill';
import { memoizeByText } from '../memoize/by-text.js';

/** Time zones of all sites, for readers of a few regions. */
const FORMATS_KEPT = 200;

/** A moment as the clocks of a zone show it. */
export interface ClockTime {
  /** Milliseconds since 1970. */
  readonly at: number;
  /** IANA name. */
  readonly zone: string;
  /** What "today" is; without it the date is always told. */
  readonly now?: number | undefined;
}

/** "today 17:00", "Friday 09:00" within the next six days, otherwise with its date; as the reader's locale writes it. */
export function clockTimeWords({ at, zone, now }: ClockTime, locale: string): string {
  const time = dateFormat(locale, zone, { timeStyle: 'short' }).format(at);
  const ahead = now === undefined ? NaN : dayOf(at, zone).since(dayOf(now, zone)).days;
  if (ahead === 0 || ahead === 1)
    return `${new Intl.RelativeTimeFormat(locale, { numeric: 'auto' }).format(ahead, 'day')} ${time}`;
  const weekday = dateFormat(locale, zone, { weekday: 'long' }).format(at);
  if (ahead > 1 && ahead < 7) return `${weekday} ${time}`;
  const date = { day: 'numeric', month: 'long', year: 'numeric' } as const;
  return `${weekday} ${dateFormat(locale, zone, date).format(at)}, ${time}`;
}

function dayOf(moment: number, zone: string): Temporal.PlainDate {
  return Temporal.Instant.fromEpochMilliseconds(moment).toZonedDateTimeISO(zone).toPlainDate();
}

const formats = memoizeByText(FORMATS_KEPT, (key) => {
  const [locale, timeZone, options] = JSON.parse(key) as [string, string, Intl.DateTimeFormatOptions];
  return new Intl.DateTimeFormat(locale, { ...options, timeZone });
});

/** Dates as a locale writes them; made once for each way of writing. */
export function dateFormat(
  locale: string,
  zone: string,
  options: Intl.DateTimeFormatOptions,
): Intl.DateTimeFormat {
  return formats(JSON.stringify([locale, zone, options]));
}
