import { nextRun } from '@pragmatica/core';
import type { Logger } from 'pino';
import { ServiceError } from '../errors.js';
import { startSurvey } from '../site/surveys/start-survey.js';
import type { Store } from '../storage/store.js';
import {
  dueSchedules,
  moveSchedule,
  movedSchedules,
  type SiteSchedule,
} from '../storage/survey-schedules.js';
import type { Job } from './job.js';
import type { JobQueue } from './queue.js';

const EVERY_MS = 5_000;
const AT_ONCE = 50;

/** Begins the surveys whose time has come. One that was missed while nobody worked begins once, late. */
export function startScheduled(store: Store, queue: Pick<JobQueue, 'send'>, log: Logger): Job {
  return {
    name: 'start-scheduled',
    everyMs: EVERY_MS,
    async run() {
      const due = await store.fork().transactional(async (transaction) => {
        for (const schedule of await movedSchedules(transaction, AT_ONCE)) await move(transaction, schedule);
        const schedules = await dueSchedules(transaction, AT_ONCE);
        for (const schedule of schedules) await move(transaction, schedule);
        return schedules;
      });
      for (const schedule of due) await start(schedule);
    },
  };

  async function start({ siteKey, host, options, setBy }: SiteSchedule): Promise<void> {
    const scope = store.fork();
    try {
      // Which environment it is of follows from the host.
      const request = { ...options, paths: [], host, environment: 'live' as const };
      const survey = await startSurvey(siteKey, request, { store: scope, actor: setBy }, true);
      await queue.send('survey', { survey: survey.id });
    } catch (error) {
      // One is under way still, or the host is the site's no more.
      if (!(error instanceof ServiceError)) throw error;
      log.info({ site: siteKey, host, reason: error.message }, 'a planned survey did not begin');
    }
  }
}

async function move(store: Store, schedule: SiteSchedule): Promise<void> {
  const { cron, siteZone } = schedule;
  await moveSchedule(store, schedule, siteZone, nextRun(cron, siteZone, new Date()) ?? null);
}
