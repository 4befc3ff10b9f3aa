import { Cron } from 'croner';
import { WEEKDAY_NAMES } from '../reach/index.js';
import { SURVEY_TEXTS } from '../texts/survey.js';
import { say } from '../texts/say.js';

/** What is wrong with a schedule. */
export type ScheduleProblem = 'not-cron' | 'never' | 'too-often';

/** A site is not walked over more often than this by itself. */
const LEAST_MS = 60 * 60_000;
/** So many times are looked at for how far they are apart: those of more than a day. */
const LOOKED_AT = 30;
const MAX_LENGTH = 100;

/** Minute, hour, day of the month, month, day of the week. */
const FIVE_FIELDS = /^\s*(?:\S+\s+){4}\S+\s*$/;

/**
 * When a schedule comes next, on the clocks of a zone.
 *
 * @param cron - five fields (POSIX crontab, with names, steps and `L`): minute, hour, day, month, weekday
 * @returns undefined where it never comes again
 */
export function nextRun(cron: string, zone: string, after: Date): Date | undefined {
  return read(cron, zone).nextRun(after) ?? undefined;
}

/** @param from - from when on it counts */
export function scheduleProblem(cron: string, zone: string, from: Date): ScheduleProblem | undefined {
  if (cron.length > MAX_LENGTH || !FIVE_FIELDS.test(cron)) return 'not-cron';
  try {
    const times = read(cron, zone).nextRuns(LOOKED_AT, from);
    if (times.length === 0) return 'never';
    const isOften = times.some((at, i) => i > 0 && at.getTime() - times[i - 1]!.getTime() < LEAST_MS);
    return isOften ? 'too-often' : undefined;
  } catch {
    return 'not-cron';
  }
}

function read(cron: string, zone: string): Cron {
  return new Cron(cron.trim(), { timezone: zone, paused: true });
}

const SIMPLE = /^(\d{1,2}) (\d{1,2}) (\*|\d{1,2}) \* (\*|[0-7])$/;

/** A schedule in words: "every Monday at 06:00"; the expression itself where there are no simple words for it. */
export function scheduleWords(cron: string): string {
  const [, minute, hour, day, weekday] = SIMPLE.exec(cron.trim().replace(/\s+/g, ' ')) ?? [];
  if (minute === undefined) return say(SURVEY_TEXTS.scheduleCron, { cron });
  const time = `${hour!.padStart(2, '0')}:${minute.padStart(2, '0')}`;
  if (day === '*' && weekday === '*') return say(SURVEY_TEXTS.scheduleDaily, { time });
  if (day === '*') return say(SURVEY_TEXTS.scheduleWeekly, { weekday: nameOf(Number(weekday)), time });
  if (weekday === '*') return say(SURVEY_TEXTS.scheduleMonthly, { day: Number(day), time });
  return say(SURVEY_TEXTS.scheduleCron, { cron });
}

/** @param weekday - 0 and 7 are Sunday */
function nameOf(weekday: number): string {
  const names = Object.values(WEEKDAY_NAMES);
  return names[(weekday + 6) % 7]!;
}
