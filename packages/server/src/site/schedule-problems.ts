/** What is told of a schedule that is none, by what is wrong with it. */
export const SCHEDULE_PROBLEMS = {
  'not-cron': 'schedule-not-cron',
  never: 'schedule-never',
  'too-often': 'schedule-too-often',
} as const;
