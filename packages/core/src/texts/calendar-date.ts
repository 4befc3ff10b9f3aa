import { dateFormat } from './clock-time.js';

/** A date, whatever the time zone. */
export interface CalendarDate {
  /** `2027-03-31`. */
  readonly date: string;
  /** It comes every year: its year is not told. */
  readonly isYearly?: boolean;
}

/** "31 March 2027", "31 March"; as the reader's locale writes it. */
export function calendarDateWords({ date, isYearly = false }: CalendarDate, locale: string): string {
  const form = { day: 'numeric', month: 'long' } as const;
  return dateFormat(locale, 'UTC', isYearly ? form : { ...form, year: 'numeric' }).format(Date.parse(date));
}
