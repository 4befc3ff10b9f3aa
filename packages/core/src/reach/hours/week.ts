import { dateOf, spansOn, timeOf, weekdayOf, type DayNumber, type DayRule } from './days.js';
import { hoursAt } from './at.js';
import { openIntervals } from './intervals.js';
import type { Hours, Span, Weekday } from './types.js';
import { momentWords } from './words.js';
import { zoneClock, type ZoneClock } from './zone-clock.js';
import { REACH_TEXTS } from '../../texts/reach.js';
import { say } from '../../texts/say.js';

/** One day of a calendar strip. */
export interface CalendarDay {
  readonly date: string;
  readonly weekday: Weekday;
  /** What decides this day's hours. */
  readonly rule: DayRule;
  /** When it is on within this day, by the clock, what goes on from the day before included. */
  readonly on: readonly Span[];
}

/** The week that holds a moment, from Monday to Sunday, hour by hour. */
export function calendarWeek(hours: Hours | undefined, clock: ZoneClock, moment: number): CalendarDay[] {
  const today = clock.at(moment).day;
  const monday = today - ((((today + 3) % 7) + 7) % 7);
  return Array.from({ length: 7 }, (_, index) => calendarDay(hours ?? {}, clock, monday + index));
}

function calendarDay(hours: Hours, clock: ZoneClock, day: DayNumber): CalendarDay {
  const start = clock.instant(day, 0);
  const end = clock.instant(day + 1, 0);
  return {
    date: dateOf(day),
    weekday: weekdayOf(day),
    rule: spansOn(hours, day).rule,
    on: openIntervals(hours, clock, start, end).map(([from, to]) => ({
      from: from <= start ? '00:00' : timeOf(clock.at(from).minutes),
      to: to >= end ? '24:00' : timeOf(clock.at(to).minutes),
    })),
  };
}

const RULE_WORDS: Readonly<Record<DayRule, string>> = {
  weekly: '',
  get exception() {
    return REACH_TEXTS.dayOnly;
  },
  get closed() {
    return REACH_TEXTS.closedEveryYear;
  },
  get 'before-first'() {
    return REACH_TEXTS.beforeFirstDay;
  },
  get 'after-last'() {
    return REACH_TEXTS.afterLastDay;
  },
};

/** Why a day's hours are not those of its weekday; empty where they are. */
export function dayRuleWords({ rule }: Pick<CalendarDay, 'rule'>): string {
  return RULE_WORDS[rule];
}

/** Whether it is on at a moment and until when, in one sentence. */
export function stateWords(hours: Hours | undefined, zone: string, moment: number): string {
  if (!hours) return REACH_TEXTS.hasNoHours;
  const { isOpen, until } = hoursAt(hours, zoneClock(zone), moment);
  if (until === undefined) return isOpen ? REACH_TEXTS.stays : REACH_TEXTS.closedDoesNot;
  const change = momentWords(until, zone, moment);
  return isOpen ? say(REACH_TEXTS.untilChange, { change }) : say(REACH_TEXTS.closedOpensChange, { change });
}
