/** How often, as people choose it. */
export type Rhythm = 'daily' | 'weekly' | 'monthly';

export interface ScheduleChoice {
  readonly rhythm: Rhythm;
  /** 1 is Monday, 7 Sunday. */
  readonly weekday: string;
  /** Of the month; none that a month may lack. */
  readonly day: string;
  /** `06:00`. */
  readonly time: string;
}

export const USUAL: ScheduleChoice = { rhythm: 'weekly', weekday: '1', day: '1', time: '06:00' };

/** The five fields of a crontab for a choice. */
export function toCron({ rhythm, weekday, day, time }: ScheduleChoice): string {
  const [hour, minute] = time.split(':').map(Number);
  const at = `${minute ?? 0} ${hour ?? 0}`;
  if (rhythm === 'daily') return `${at} * * *`;
  return rhythm === 'weekly' ? `${at} * * ${weekday}` : `${at} ${day} * *`;
}

/** The choice that an expression stands for; undefined for one that is none of them. */
export function fromCron(cron: string): ScheduleChoice | undefined {
  const [, minute, hour, day, weekday] = /^(\d+) (\d+) (\*|\d+) \* (\*|\d+)$/.exec(cron) ?? [];
  if (minute === undefined || (day !== '*' && weekday !== '*')) return undefined;
  const time = `${hour!.padStart(2, '0')}:${minute.padStart(2, '0')}`;
  if (day !== '*') return Number(day) > 28 ? undefined : { ...USUAL, rhythm: 'monthly', day: day!, time };
  if (weekday === '*') return { ...USUAL, rhythm: 'daily', time };
  return { ...USUAL, rhythm: 'weekly', weekday: weekday === '0' ? '7' : weekday!, time };
}
