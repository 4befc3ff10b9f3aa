import { dayAt, hoursAt, onlyDates, zoneClock, type Hours } from '../../reach/index.js';
import { defineCheck } from '../check.js';

const CHAT = '<script async src="https://parlanook.example/chat.js"></script>';

export const closedNow = defineCheck({
  id: 'closed-now',
  area: 'activation',
  severity: 'advice',
  title: 'A snippet is closed right now',
  why: 'It is on and in order, but nobody sees it outside its hours. If you look for it on the site now, you will not find it.',
  messages: {
    closed: {
      title: '“{snippet}” is closed right now',
      advice: 'It opens {until} ({timeZone}). To check it earlier, look at the page plan for that time.',
    },
    'not-begun': {
      title: '“{snippet}” has not started yet',
      advice:
        'Its first day is still ahead: it opens {until} ({timeZone}). To check it earlier, look at the page plan for that time.',
    },
  },
  isFixable: false,
  wrong: [
    {
      name: 'Harbour chat',
      limits: { hours: { weekly: { fri: [{ from: '09:00', to: '17:00' }] } } },
      parts: [{ placement: 'body-end', code: CHAT }],
    },
  ],
  right: [
    {
      name: 'Harbour chat',
      limits: { hours: { weekly: { mon: [{ from: '09:00', to: '17:00' }] } } },
      parts: [{ placement: 'body-end', code: CHAT }],
    },
  ],
  *run({ snapshot, now }) {
    const { timeZone } = snapshot.site;
    for (const { key, name, state, limits } of snapshot.snippets) {
      if (state !== 'on' || !limits?.hours) continue;
      const { isOpen, until } = hoursAt(limits.hours, zoneClock(timeZone), now);
      // What never opens again is another matter.
      if (isOpen || until === undefined) continue;
      yield {
        about: 'hours',
        message: isToCome(limits.hours, dayAt(now, timeZone)) ? 'not-begun' : 'closed',
        params: { snippet: name, until: { at: until, zone: timeZone, now }, timeZone },
        subjects: [{ snippet: key, name }],
        evidence: [],
      };
    }
  },
});

/** Whether hours have a first day, or days of their own only, and none of them has come. @param today - `2027-03-31` */
function isToCome(hours: Hours, today: string): boolean {
  if (hours.first !== undefined) return hours.first > today;
  const dates = onlyDates(hours) ?? [];
  return dates.length > 0 && dates.every((date) => date > today);
}
