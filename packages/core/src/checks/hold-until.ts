import { hoursAt, zoneClock } from '../reach/index.js';
import type { Snapshot } from '../snapshot/index.js';

/**
 * Until when the findings of a set are what they are, as long as the set is: until hours begin or end, or another day
 * begins at the site, with which waivers end.
 *
 * @param now - milliseconds since the epoch, as is what it returns
 */
export function findingsHoldUntil({ site, snippets }: Snapshot, now: number): number {
  const clock = zoneClock(site.timeZone);
  const midnight = clock.instant(clock.at(now).day + 1, 0);
  const changes = snippets.flatMap(({ state, limits }) =>
    state === 'on' && limits?.hours ? (hoursAt(limits.hours, clock, now).until ?? []) : [],
  );
  return Math.min(midnight, ...changes);
}
