import type { Store } from '../storage/store.js';
import type { CalendarResource } from '@pragmatica/contract';
import { calendarWeek, hoursAt, stateWords, zoneClock } from '@pragmatica/core';
import { findSnippet } from './find-snippet.js';
import { toMoment } from './page-plan.js';
import { findSite } from './site-lock.js';

/** The hours of a week in which a snippet of a draft is on. @param at - as it is asked for @throws ServiceError 404 */
export async function showCalendar(
  store: Store,
  key: string,
  snippetKey: string,
  at?: string,
): Promise<CalendarResource> {
  const site = await findSite(store, key);
  const { snippet } = await findSnippet(store, site, snippetKey);
  const { timeZone } = site;
  const clock = zoneClock(timeZone);
  const moment = toMoment(at, timeZone);
  const { hours } = snippet.limits;
  const { isOpen, until } = hoursAt(hours, clock, moment);
  return {
    timeZone,
    isOpen,
    until: until === undefined ? null : new Date(until).toISOString(),
    message: stateWords(hours, timeZone, moment),
    days: calendarWeek(hours, clock, moment).map(({ on, ...day }) => ({
      ...day,
      on: on.map((span) => ({ ...span })),
    })),
  };
}
