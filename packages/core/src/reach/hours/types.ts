export const WEEKDAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
export type Weekday = (typeof WEEKDAYS)[number];

/** From one time of day to another, `09:00` to `17:30`; one that ends before it begins goes on over midnight. */
export interface Span {
  readonly from: string;
  /** Up to `24:00`. */
  readonly to: string;
}

/** What a single day has instead of its weekly hours. */
export interface DayException {
  /** `2027-05-01` */
  readonly date: string;
  /** None: closed all day. */
  readonly spans: readonly Span[];
}

/**
 * When a snippet runs, by the clock of the site. A span belongs to the day on which it begins, so what goes on over
 * midnight ends as it began, whatever the next day is.
 */
export interface Hours {
  /** Days that are not named are closed. Left out: all day, every day. */
  readonly weekly?: Partial<Record<Weekday, readonly Span[]>>;
  /** Days that are closed every year, `12-25`. */
  readonly closed?: readonly string[];
  readonly exceptions?: readonly DayException[];
  /** The first and the last day, `2027-03-31`. */
  readonly first?: string;
  readonly last?: string;
}

/** Milliseconds since 1970, the end not included. */
export type Interval = readonly [start: number, end: number];
